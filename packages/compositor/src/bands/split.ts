import type { Kernels } from '../engine'

export type KernelName = keyof Kernels

/** Pixels or values below which a call is not worth dividing: waking somebody takes as long. */
const LEAST = 24_000

/** Kernels over a run of items: which argument counts them, and by how many bytes per item each address moves on. */
const RUNS: Partial<Record<KernelName, { count: number; addresses: Record<number, number> }>> = {
  fill: { count: 1, addresses: { 0: 4 } },
  blendPixels: { count: 2, addresses: { 0: 4, 1: 4 } },
  blendRow: { count: 2, addresses: { 0: 4, 1: 4 } },
  tint: { count: 2, addresses: { 0: 4, 1: 4 } },
  dissolve: { count: 3, addresses: { 0: 4, 1: 4, 2: 4 } },
  mixByMap: { count: 4, addresses: { 0: 4, 1: 4, 2: 2, 3: 4 } },
  lightMap: { count: 2, addresses: { 0: 4, 1: 2 } },
  addUp: { count: 2, addresses: { 0: 1, 1: 4 } },
  average: { count: 2, addresses: { 0: 4, 1: 1 } },
  addLight: { count: 1, addresses: { 0: 4 } },
  towards: { count: 1, addresses: { 0: 4 } },
  thin: { count: 1, addresses: { 0: 4 } },
  premultiply: { count: 1, addresses: { 0: 4 } },
}

/** Kernels that draw rows `from` to `to` of their own accord, and how many pixels a row has. */
const ROWS: Partial<Record<KernelName, { from: number; to: number; width: number }>> = {
  drawAffine: { from: 6, to: 8, width: 4 },
  drawMesh: { from: 11, to: 12, width: 4 },
  resampleBand: { from: 8, to: 9, width: 7 },
  yuvToRgba: { from: 15, to: 16, width: 5 },
}

/**
 * The arguments of two calls that together do what one call does, to the bit; `null` when it has to stay one. Halves
 * touch different memory, so that they may run at the same time.
 */
export function splitCall(name: KernelName, args: readonly number[]): readonly [number[], number[]] | null {
  const run = RUNS[name]
  if (run) {
    const count = args[run.count]!
    if (count < LEAST) return null
    // Sixteen pixels are a line of the processor's memory: no two threads write to one.
    const half = (count >> 1) & ~63
    const [first, second] = [[...args], [...args]]
    first[run.count] = half
    second[run.count] = count - half
    for (const [index, bytes] of Object.entries(run.addresses)) second[Number(index)]! += half * bytes
    return [first, second]
  }
  const rows = ROWS[name]
  if (rows) {
    const [from, to] = [args[rows.from]!, args[rows.to]!]
    if ((to - from) * args[rows.width]! < LEAST) return null
    const middle = (from + to) >> 1
    const [first, second] = [[...args], [...args]]
    first[rows.to] = middle
    second[rows.from] = middle
    // Each needs scratch space of its own; callers give twice as much.
    if (name === 'yuvToRgba') second[8]! += 2 * (((args[5]! + 1) >> 1) + 40)
    return [first, second]
  }
  if (name === 'resampleColumns') {
    const [, stride, count, , width] = args as [number, number, number, number, number]
    if (count * width < LEAST) return null
    const half = count >> 1
    const [first, second] = [[...args], [...args]]
    first[2] = half
    second[2] = count - half
    second[0]! += half * stride
    second[3]! += half * width * 8
    return [first, second]
  }
  if (name === 'blurRows') {
    const [, , width, height] = args as [number, number, number, number]
    if (width * height < LEAST) return null
    const half = height >> 1
    const [first, second] = [[...args], [...args]]
    first[3] = half
    second[3] = height - half
    second[0]! += half * width * 4
    second[1]! += half * width * 4
    return [first, second]
  }
  return null
}
