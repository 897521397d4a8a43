import { createBandControl, inTwoBands, serveBands } from './bands/helper'
import { Heap } from './heap'
import type { Kernels } from './kernels'

/** The kernels with their memory. One engine belongs to one thread. */
export interface Engine {
  readonly kernels: Kernels
  readonly heap: Heap
}

const PAGES = { initial: 256, maximum: 65_536 }

/** Starts kernels on a memory. */
async function instantiate(module: WebAssembly.Module, memory: WebAssembly.Memory): Promise<Kernels> {
  const imports = {
    env: {
      memory,
      abort: () => {
        throw new Error('A kernel stopped.')
      },
    },
  }
  return (await WebAssembly.instantiate(module, imports)).exports as unknown as Kernels
}

/**
 * Starts the kernels. The same module serves the browser's worker and Node.
 * @param source the bytes of `kernels.wasm`, or the module compiled from them
 */
export async function createEngine(source: BufferSource | WebAssembly.Module): Promise<Engine> {
  const memory = new WebAssembly.Memory(PAGES)
  const module = source instanceof WebAssembly.Module ? source : await WebAssembly.compile(source)
  return { kernels: await instantiate(module, memory), heap: new Heap(memory) }
}

/** What a thread needs to take part in an engine's work. */
export interface BandShare {
  module: WebAssembly.Module
  memory: WebAssembly.Memory
  control: SharedArrayBuffer
}

/**
 * Starts kernels that divide large calls between two threads. Give `share` to a worker that calls {@link joinBands};
 * until it does, and if it never does, everything is done on this thread.
 * @param source the bytes of `kernels.shared.wasm`
 */
export async function createBandEngine(source: BufferSource): Promise<{ engine: Engine; share: BandShare }> {
  const memory = new WebAssembly.Memory({ ...PAGES, shared: true })
  const module = await WebAssembly.compile(source)
  const control = createBandControl()
  const kernels = inTwoBands(await instantiate(module, memory), control)
  return { engine: { kernels, heap: new Heap(memory) }, share: { module, memory, control } }
}

/** Takes part in an engine's work, for ever: for a worker that does nothing else. */
export async function joinBands({ module, memory, control }: BandShare): Promise<never> {
  return serveBands(control, await instantiate(module, memory))
}
