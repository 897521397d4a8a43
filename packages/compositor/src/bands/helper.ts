import type { Kernels } from '../engine'
import { splitCall, type KernelName } from './split'

/** What the control memory says: nothing to do, a call to carry out, or one carried out. */
const IDLE = 1
const CALLED = 2
const DONE = 3
/** Most arguments a kernel has. */
const ARGUMENTS = 32
const HEAD_BYTES = 64

/** Turns of looking before waiting: a kernel's other half is most often done by then. */
const LOOKS = 3000
/** After this long without an answer a helper is given up, in milliseconds. */
const PATIENCE = 2000

interface Control {
  /** State, kernel, number of arguments. */
  words: Int32Array
  values: Float64Array
}

function open(memory: SharedArrayBuffer): Control {
  return { words: new Int32Array(memory, 0, 16), values: new Float64Array(memory, HEAD_BYTES, ARGUMENTS) }
}

/** Memory through which two threads divide kernels between them. */
export function createBandControl(): SharedArrayBuffer {
  return new SharedArrayBuffer(HEAD_BYTES + ARGUMENTS * 8)
}

const namesOf = (kernels: Kernels) =>
  (Object.keys(kernels) as KernelName[]).filter((name) => typeof kernels[name] === 'function').sort()

/**
 * Carries out halves of kernels for another thread, for ever. Its kernels are of the same module and memory.
 * It never returns: give it a worker of its own.
 */
export function serveBands(control: SharedArrayBuffer, kernels: Kernels): never {
  const { words, values } = open(control)
  const calls = namesOf(kernels).map((name) => kernels[name] as (...args: number[]) => void)
  Atomics.store(words, 0, IDLE)
  for (;;) {
    const state = Atomics.load(words, 0)
    if (state !== CALLED) {
      Atomics.wait(words, 0, state)
      continue
    }
    calls[words[1]!]!(...values.subarray(0, words[2]!))
    Atomics.store(words, 0, DONE)
    Atomics.notify(words, 0)
  }
}

/**
 * Kernels whose large calls are done in two bands, one of them by the thread that serves `control`. While that thread
 * is not there yet, and should it ever not answer, all is done here: the result is the same to the bit.
 */
export function inTwoBands(kernels: Kernels, control: SharedArrayBuffer): Kernels {
  const { words, values } = open(control)
  let lost = false
  const divided: Record<string, unknown> = {}
  for (const [index, name] of namesOf(kernels).entries()) {
    const call = kernels[name] as (...args: number[]) => void
    divided[name] = (...args: number[]) => {
      const state = Atomics.load(words, 0)
      const halves = lost || (state !== IDLE && state !== DONE) ? null : splitCall(name, args)
      if (!halves) return call(...args)
      const [mine, theirs] = halves
      words[1] = index
      words[2] = theirs.length
      values.set(theirs)
      Atomics.store(words, 0, CALLED)
      Atomics.notify(words, 0)
      call(...mine)
      for (let i = 0; i < LOOKS; i++) if (Atomics.load(words, 0) === DONE) return
      const began = Date.now()
      while (Atomics.load(words, 0) === CALLED) {
        Atomics.wait(words, 0, CALLED, 50)
        if (Date.now() - began > PATIENCE) {
          lost = true
          return call(...theirs)
        }
      }
    }
  }
  return divided as unknown as Kernels
}
