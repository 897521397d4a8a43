import { readFileSync } from 'node:fs'
import { Worker } from 'node:worker_threads'
import { afterAll, describe, expect, it } from 'vitest'
import fc from 'fast-check'
import type { FramePlan, LayerPlan, PlacedLayer } from '@dusk/timeline'
import { Compositor, createBandEngine, createEngine, Picture, TRANSITIONS, type Engine } from '../src/index'
import { splitCall, type KernelName } from '../src/bands/split'

const wasm = (name: string) => readFileSync(new URL(`../build/${name}.wasm`, import.meta.url))
const engine = await createEngine(wasm('kernels'))

/** Bytes that differ from place to place, alike every time. */
function fillWith(bytes: Uint8Array, seed: number): void {
  for (let i = 0; i < bytes.length; i++) bytes[i] = (Math.imul(i + seed * 977, 2654435761) >>> 23) & 255
}

const [W, H] = [416, 243]
const N = W * H
/** A call of each kernel that can be divided, given addresses of two pictures, one to draw on and a map or sums. */
const CALLS: Partial<Record<KernelName, (a: number, b: number, out: number, map: number) => number[]>> = {
  fill: (_a, _b, out) => [out, N, 0x7f4422],
  blendPixels: (a, _b, out) => [a, out, N, 6],
  blendRow: (a, _b, out) => [a, out, N, 20_000],
  tint: (a, _b, out) => [a, out, N, 200, 90, 10, 0.7],
  dissolve: (a, b, out) => [a, b, out, N, 9000],
  mixByMap: (a, b, out, map) => [a, b, map, out, N, 0.4, 3, 255, 200, 100, 0.6],
  lightMap: (a, _b, out) => [a, out, N, 1],
  addUp: (a, _b, out) => [a, out, N],
  average: (_a, _b, out, map) => [map, out, N, 3],
  addLight: (_a, _b, out) => [out, N, 30, 20, 5],
  towards: (_a, _b, out) => [out, N, 30, 20, 5, 0.3],
  thin: (_a, _b, out) => [out, N, 0.4],
  premultiply: (_a, _b, out) => [out, N],
  blurRows: (a, _b, out) => [a, out, W, H, 7],
  drawAffine: (a, _b, out) => [a, W, H, out, W, 3, 5, W - 9, H - 2, 0.9, -0.2, 0.2, 0.9, 3, 40, 1, 1, W, H, 0.8],
}

describe('kernels in two bands', () => {
  it('do to the bit what they do in one, whichever band is first', () => {
    for (const [name, call] of Object.entries(CALLS) as [KernelName, NonNullable<(typeof CALLS)[KernelName]>][]) {
      const results = (['whole', 'forward', 'backward'] as const).map((order) => {
        const blocks = [1, 2, 3, 4].map((seed) => {
          const address = engine.heap.allocate(N * 4)
          fillWith(engine.heap.bytes(address, N * 4), seed)
          return address
        }) as [number, number, number, number]
        const args = call(...blocks)
        const run = (list: readonly number[]) => (engine.kernels[name] as (...list: number[]) => void)(...list)
        if (order === 'whole') run(args)
        else {
          const halves = splitCall(name, args)
          if (!halves) throw new Error(`${name} was not divided.`)
          for (const half of order === 'forward' ? halves : [...halves].reverse()) run(half)
        }
        const result = engine.heap.bytes(blocks[2], N * 4).slice()
        blocks.forEach((address) => engine.heap.release(address))
        return result
      })
      expect(Buffer.compare(results[0]!, results[1]!), name).toBe(0)
      expect(Buffer.compare(results[0]!, results[2]!), name).toBe(0)
    }
  })

  it('cover a run or rows exactly once, and leave small ones whole', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 5_000_000 }), (n) => {
        const halves = splitCall('dissolve', [0, 1e8, 2e8, n, 5])
        expect(halves === null).toBe(n < 24_000)
        if (!halves) return
        const [first, second] = halves
        expect(first[3]! + second[3]!).toBe(n)
        expect(second.slice(0, 3)).toEqual([first[3]! * 4, 1e8 + first[3]! * 4, 2e8 + first[3]! * 4])
      }),
    )
    expect(splitCall('shapeEdge', [0, 4000, 4000])).toBeNull()
  })
})

describe('an engine of two threads', () => {
  const workers: Worker[] = []
  afterAll(() => Promise.all(workers.map((worker) => worker.terminate())))

  const base: PlacedLayer = { kind: 'picture', assetId: '', time: 0, width: W, height: H, matrix: [1, 0, 0, 1, 0, 0], opacity: 1, alpha: false } // prettier-ignore
  const layers: [string, LayerPlan[]][] = [
    ['turned and half there', [base, { ...base, matrix: [0.8, 0.3, -0.3, 0.8, 60, 10], opacity: 0.5 }]],
    ['enlarged', [{ ...base, matrix: [1.4, 0, 0, 1.4, -40.5, -20.25] }]],
    ['made smaller', [base, { ...base, matrix: [0.37, 0, 0, 0.41, 50.5, 20], blend: 'overlay' }]],
    ...TRANSITIONS.map(({ id }): [string, LayerPlan[]] => [id, [{ kind: 'transition', transition: id, settings: {}, progress: 0.4, from: base, to: { ...base, matrix: [1.2, 0, 0, 1.2, 0, 0] } }]]), // prettier-ignore
  ]
  function drawAll(on: Engine): Uint8Array[] {
    const compositor = new Compositor(on)
    const pictures = [1, 2].map((seed) => {
      const picture = Picture.i420(on, W, H)
      fillWith(picture.bytes(), seed)
      return picture
    })
    return layers.map(([, list]) => {
      const plan: FramePlan = { width: W, height: H, background: '#221133', layers: list, passThrough: false }
      return compositor.compose(plan, [pictures[0]!, pictures[1]!]).pixels().slice()
    })
  }

  it('draws every frame as one thread does, before its second thread is there and after', async () => {
    const { engine: shared, share } = await createBandEngine(wasm('kernels.shared'))
    const alone = drawAll(engine)
    const early = drawAll(shared)
    workers.push(new Worker(new URL('./bandWorker.mjs', import.meta.url), { workerData: share }))
    const state = new Int32Array(share.control, 0, 1)
    while (Atomics.load(state, 0) === 0) await new Promise((resolve) => setTimeout(resolve, 20))
    const both = drawAll(shared)
    expect(Atomics.load(state, 0)).toBe(3)
    layers.forEach(([name], i) => {
      expect(Buffer.compare(alone[i]!, early[i]!), name).toBe(0)
      expect(Buffer.compare(alone[i]!, both[i]!), name).toBe(0)
    })
  })

  it('goes on alone when its second thread does not answer', async () => {
    const { engine: shared, share } = await createBandEngine(wasm('kernels.shared'))
    // It says it is there, and never does a thing.
    Atomics.store(new Int32Array(share.control, 0, 1), 0, 1)
    const address = shared.heap.allocate(N * 4)
    shared.kernels.fill(address, N, 0x11223344)
    expect(new Set(new Uint32Array(shared.heap.bytes(address, N * 4).buffer, address, N))).toEqual(new Set([0x11223344])) // prettier-ignore
  })
})
