import { readFileSync } from 'node:fs'
import { Worker } from 'node:worker_threads'
import { afterAll, describe, expect, it } from 'vitest'
import fc from 'fast-check'
import type { FramePlan, LayerPlan, PlacedLayer } from '@dusk/timeline'
import { Compositor, createBandEngine, createEngine, Picture, TRANSITIONS, type Engine } from '../src/index'
import { bandHelp } from '../src/bands/helper'
import { pieceOf, piecesOf, type KernelName } from '../src/bands/split'

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
  layRect: (a, _b, out) => [a, W * 4, out + 4 * W + 8, W * 4, W - 5, H - 3, 0.7, 0.4, 0.9, 0.2, 0.6, 0, 0, H - 3],
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

describe('kernels in pieces', () => {
  it('do to the bit what they do in one, whichever piece is first', () => {
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
          const total = piecesOf(name, args)
          expect(total, name).toBeGreaterThan(1)
          const pieces = Array.from({ length: total }, (_, piece) =>
            pieceOf(name, args, piece, total, piece % 2 ? 1 : 0),
          )
          for (const piece of order === 'forward' ? pieces : pieces.reverse()) run(piece)
        }
        const result = engine.heap.bytes(blocks[2], N * 4).slice()
        blocks.forEach((address) => engine.heap.release(address))
        return result
      })
      expect(Buffer.compare(results[0]!, results[1]!), name).toBe(0)
      expect(Buffer.compare(results[0]!, results[2]!), name).toBe(0)
    }
  })

  it('cover a run exactly once, and leave small ones whole', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 5_000_000 }), (n) => {
        const args = [0, 1e8, 2e8, n, 5]
        const total = piecesOf('dissolve', args)
        expect(total === 1).toBe(n < 24_000)
        let next = 0
        for (let piece = 0; piece < total; piece++) {
          const [a, b, dst, count, weight] = pieceOf('dissolve', args, piece, total, 0)
          expect([a, b, dst, weight]).toEqual([next * 4, 1e8 + next * 4, 2e8 + next * 4, 5])
          expect(count).toBeGreaterThan(0)
          next += count!
        }
        expect(next).toBe(n)
      }),
    )
    expect(piecesOf('shapeEdge', [0, 4000, 4000])).toBe(1)
  })

  it('cover rows exactly once, also when there are fewer rows than pieces', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 900 }),
        fc.integer({ min: 0, max: 900 }),
        fc.constantFrom(100, 1920, 40_000),
        (from, height, width) => {
          const args = [0, 0, 0, 0, 0, 4, 0, width, from, from + height]
          const total = piecesOf('resampleBand', args)
          const edges = Array.from({ length: total }, (_, piece) =>
            pieceOf('resampleBand', args, piece, total, 0).slice(8),
          )
          expect(edges[0]![0]).toBe(from)
          expect(edges.at(-1)![1]).toBe(from + height)
          edges.slice(1).forEach(([start], n) => expect(start).toBe(edges[n]![1]))
        },
      ),
    )
  })
})

describe('an engine of two threads', () => {
  const workers: Worker[] = []
  afterAll(() => Promise.all(workers.map((worker) => worker.terminate())))

  const base: PlacedLayer = {
    kind: 'picture',
    assetId: '',
    time: 0,
    width: W,
    height: H,
    matrix: [1, 0, 0, 1, 0, 0],
    opacity: 1,
    alpha: false,
  }
  const layers: [string, LayerPlan[]][] = [
    ['turned and half there', [base, { ...base, matrix: [0.8, 0.3, -0.3, 0.8, 60, 10], opacity: 0.5 }]],
    ['enlarged', [{ ...base, matrix: [1.4, 0, 0, 1.4, -40.5, -20.25] }]],
    ['made smaller', [base, { ...base, matrix: [0.37, 0, 0, 0.41, 50.5, 20], blend: 'overlay' }]],
    ...TRANSITIONS.map(({ id }): [string, LayerPlan[]] => [
      id,
      [
        {
          kind: 'transition',
          transition: id,
          settings: {},
          progress: 0.4,
          from: base,
          to: { ...base, matrix: [1.2, 0, 0, 1.2, 0, 0] },
        },
      ],
    ]),
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
    expect(bandHelp(share.control)).toEqual({ there: false, pieces: 0 })
    while (!bandHelp(share.control).there) await new Promise((resolve) => setTimeout(resolve, 20))
    const both = drawAll(shared)
    expect(bandHelp(share.control).pieces).toBeGreaterThan(layers.length)
    layers.forEach(([name], i) => {
      expect(Buffer.compare(alone[i]!, early[i]!), name).toBe(0)
      expect(Buffer.compare(alone[i]!, both[i]!), name).toBe(0)
    })
  })

  const coloursOf = (on: Engine, address: number) =>
    new Set(new Uint32Array(on.heap.bytes(address, N * 4).buffer, address, N))

  it('goes on alone when its second thread takes nothing', async () => {
    const { engine: shared, share } = await createBandEngine(wasm('kernels.shared'))
    // It says it is there, and never does a thing.
    Atomics.store(new Int32Array(share.control, 0, 1), 0, 1)
    const address = shared.heap.allocate(N * 4)
    for (let i = 0; i < 20; i++) shared.kernels.fill(address, N, 0x11223344 + i)
    expect(coloursOf(shared, address)).toEqual(new Set([0x11223344 + 19]))
  })

  it('does what a second thread took and never finished', async () => {
    const { engine: shared, share } = await createBandEngine(wasm('kernels.shared'))
    // Takes one piece of the first call, and stops for good.
    const thief = new Worker(
      `const words = new Int32Array(require('node:worker_threads').workerData, 0, 16)
       Atomics.store(words, 0, 1)
       for (;;) {
         const ticket = Atomics.load(words, 1)
         const open = (ticket & 255) < ((ticket >> 8) & 255)
         if (open && Atomics.compareExchange(words, 1, ticket, ticket + 1) === ticket) break
       }
       setInterval(() => {}, 1000)`,
      { eval: true, workerData: share.control },
    )
    workers.push(thief)
    while (!bandHelp(share.control).there) await new Promise((resolve) => setTimeout(resolve, 20))
    const address = shared.heap.allocate(N * 4)
    for (let i = 0; i < 50; i++) shared.kernels.fill(address, N, 0x11223344 + i)
    expect(coloursOf(shared, address)).toEqual(new Set([0x11223344 + 49]))
  })
})
