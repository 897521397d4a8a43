import type { Kernels } from '../kernels'

export type KernelName = keyof Kernels

/** Pixels or values below which a piece is not worth handing over: waking somebody takes as long. */
const LEAST = 24_000
/** Most pieces of a call. Several, so that whoever is late, or kept from running, does fewer of them. */
const MOST = 8

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
  unsharp: { count: 3, addresses: { 0: 4, 1: 4, 2: 4 } },
  lumaPlane: { count: 2, addresses: { 0: 4, 1: 1 } },
  sharpenFrom: { count: 3, addresses: { 0: 4, 1: 1, 2: 1 } },
  premultiply: { count: 1, addresses: { 0: 4 } },
  beginAlike: { count: 2, addresses: { 0: 4, 1: 16 } },
  addAlike: { count: 3, addresses: { 0: 4, 1: 4, 2: 16 } },
  endAlike: { count: 2, addresses: { 0: 16, 1: 4 } },
  deviation: { count: 3, addresses: { 0: 4, 1: 4, 2: 4 } },
  calm: { count: 3, addresses: { 0: 4, 1: 4, 2: 4 } },
  gainColours: { count: 1, addresses: { 0: 4 } },
  cover: { count: 2, addresses: { 0: 4, 1: 1 } },
  mixByCover: { count: 4, addresses: { 0: 4, 1: 4, 2: 4, 3: 1 } },
  keepAlpha: { count: 2, addresses: { 0: 4, 1: 4 } },
  keepCovered: { count: 2, addresses: { 0: 4, 1: 1 } },
  keyColours: { count: 2, addresses: { 0: 4, 1: 1 } },
  keyLuma: { count: 2, addresses: { 0: 4, 1: 1 } },
  despill: { count: 1, addresses: { 0: 4 } },
}

/** Kernels that draw rows `from` to `to` of their own accord, and how many pixels a row has. */
const ROWS: Partial<Record<KernelName, { from: number; to: number; width: number }>> = {
  drawAffine: { from: 6, to: 8, width: 4 },
  enlarge: { from: 4, to: 5, width: 1 },
  drawMesh: { from: 11, to: 12, width: 4 },
  resampleBand: { from: 8, to: 9, width: 7 },
  resamplePlaneBand: { from: 8, to: 9, width: 7 },
  layRect: { from: 12, to: 13, width: 4 },
  yuvToRgba: { from: 15, to: 16, width: 5 },
  lookUp: { from: 2, to: 3, width: 1 },
  vignette: { from: 2, to: 3, width: 1 },
  grain: { from: 2, to: 3, width: 1 },
  yuvToHalfRgba: { from: 11, to: 12, width: 3 },
  drawLines: { from: 13, to: 14, width: 2 },
  filterColumns: { from: 6, to: 7, width: 2 },
  sharpenLuma: { from: 8, to: 9, width: 3 },
  emboss: { from: 8, to: 9, width: 2 },
  calmest: { from: 6, to: 7, width: 3 },
  halftone: { from: 14, to: 15, width: 2 },
  cells: { from: 8, to: 9, width: 2 },
  scatter: { from: 6, to: 7, width: 2 },
}

/** Kernels over a number of rows: which argument counts them, how wide they are, and bytes per row of each address. */
const STACKS: Partial<
  Record<KernelName, { count: number; width: number; addresses: (args: readonly number[]) => Record<number, number> }>
> = {
  resampleColumns: { count: 2, width: 4, addresses: (args) => ({ 0: args[1]!, 3: args[4]! * 8 }) },
  resamplePlaneColumns: { count: 2, width: 4, addresses: (args) => ({ 0: args[1]!, 3: args[4]! * 2 }) },
  blurRows: { count: 3, width: 2, addresses: (args) => ({ 0: args[2]! * 4, 1: args[2]! * 4 }) },
  filterRows: { count: 3, width: 2, addresses: (args) => ({ 0: args[2]! * 4, 1: args[2]! * 4 }) },
  planeRows: { count: 3, width: 2, addresses: (args) => ({ 0: args[2]!, 1: args[2]! * 2 }) },
}

const enough = (pixels: number) => Math.max(1, Math.min(MOST, Math.floor((pixels * 2) / LEAST)))

/** How many pieces a call is worth: 1 when it has to stay whole. */
export function piecesOf(name: KernelName, args: readonly number[]): number {
  const run = RUNS[name]
  if (run) return args[run.count]! < LEAST ? 1 : enough(args[run.count]!)
  const rows = ROWS[name]
  const stack = STACKS[name]
  if (!rows && !stack) return 1
  const height = rows ? args[rows.to]! - args[rows.from]! : args[stack!.count]!
  const pixels = height * args[(rows ?? stack)!.width]!
  return pixels < LEAST ? 1 : Math.min(height, enough(pixels))
}

/**
 * The arguments of one of the calls that together do what a whole call does, to the bit. Pieces touch different memory,
 * so that they may run at the same time and in any order.
 * @param piece from 0 to `total` − 1
 * @param thread 0 or 1: scratch space is not shared
 */
export function pieceOf(
  name: KernelName,
  args: readonly number[],
  piece: number,
  total: number,
  thread: 0 | 1,
): number[] {
  const part = [...args]
  const run = RUNS[name]
  if (run) {
    const count = args[run.count]!
    // Sixteen pixels are a line of the processor's memory: no two threads write to one.
    const edge = (n: number) => (n === total ? count : Math.floor((count * n) / total) & ~63)
    part[run.count] = edge(piece + 1) - edge(piece)
    for (const [index, bytes] of Object.entries(run.addresses)) part[Number(index)]! += edge(piece) * bytes
    return part
  }
  const rows = ROWS[name]
  if (rows) {
    const [from, to] = [args[rows.from]!, args[rows.to]!]
    const edge = (n: number) => from + Math.floor(((to - from) * n) / total)
    part[rows.from] = edge(piece)
    part[rows.to] = edge(piece + 1)
    // Each thread needs scratch space of its own; callers give twice as much.
    if (name === 'yuvToRgba' && thread === 1) part[8]! += 2 * (((args[5]! + 1) >> 1) + 40)
    return part
  }
  const stack = STACKS[name]!
  const count = args[stack.count]!
  const edge = (n: number) => Math.floor((count * n) / total)
  part[stack.count] = edge(piece + 1) - edge(piece)
  for (const [index, bytes] of Object.entries(stack.addresses(args))) part[Number(index)]! += edge(piece) * bytes
  return part
}
