import { bisectRight } from 'd3-array'
import { z } from 'zod'
import { frameToTicks, ticksPerFrame, ticksToFrame } from '../time/ticks'
import { rateSchema } from './values'

/**
 * When each frame of a source begins, in ticks from asset zero. Sources of one steady rate need only that rate; the
 * others list every start. Proxy, preview and render all find their frames through this table.
 */
export const frameTableSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('constant'), rate: rateSchema, count: z.int().min(1) }),
  z.object({ kind: z.literal('listed'), starts: z.array(z.int().min(0)).min(1), end: z.int().min(1) }),
])
export type FrameTable = z.infer<typeof frameTableSchema>

/** Number of frames in a table. */
export function frameCount(table: FrameTable): number {
  return table.kind === 'constant' ? table.count : table.starts.length
}

/** The frame showing at `ticks`; before the first and after the last one, those are held. */
export function frameAt(table: FrameTable, ticks: number): number {
  if (table.kind === 'constant') return Math.min(Math.max(ticksToFrame(ticks, table.rate), 0), table.count - 1)
  return Math.max(bisectRight(table.starts, ticks) - 1, 0)
}

/** Start of a frame in ticks. */
export function frameStart(table: FrameTable, frame: number): number {
  return table.kind === 'constant' ? frameToTicks(frame, table.rate) : table.starts[frame]!
}

/** End of the last frame in ticks. */
export function tableLength(table: FrameTable): number {
  return table.kind === 'constant' ? frameToTicks(table.count, table.rate) : table.end
}

/**
 * The table for measured frame starts. Starts that stray less than a third of a frame from a steady rate, as they do in
 * containers that count in milliseconds, are taken for that rate, so that rounding in the file is not shown as judder.
 * @param starts ticks from the first frame, rising
 * @param rate the nominal rate, where the source names one
 * @param lastLength length of the last frame in ticks, where known
 */
export function makeFrameTable(
  starts: readonly number[],
  rate: { num: number; den: number } | null,
  lastLength: number | null,
): FrameTable {
  if (rate) {
    const step = ticksPerFrame(rate)
    if (starts.every((start, i) => Math.abs(start - i * step) < step / 3))
      return { kind: 'constant', rate, count: starts.length }
  }
  const last = starts.at(-1)!
  const mean = starts.length > 1 ? last / (starts.length - 1) : rate ? ticksPerFrame(rate) : 29_400_000
  return { kind: 'listed', starts: [...starts], end: Math.round(last + (lastLength || mean)) }
}
