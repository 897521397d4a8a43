import { median } from 'd3-array'
import { deliveryOf } from '@dusk/interchange'
import { framesPerSecond } from '@dusk/timeline'
import type { FileShape } from './renderChoice'

/** A finished render that the time of the next one is judged by. */
export interface TimedRender extends FileShape {
  reelId: string
  /** How long it took, in seconds. */
  took: number
  /** Parts in all, and those that were there already. */
  chunks: number
  reused: number
}

/** Below this many parts made the time that a render took says little of drawing. */
const LEAST_MADE = 1

/** Millions of pixels that a file holds in all its frames; for sound alone, its seconds. */
function amountOf(shape: FileShape): number {
  if (!deliveryOf(shape.format).picture) return shape.seconds
  return (shape.width * shape.height * framesPerSecond(shape.rate) * shape.seconds) / 1e6
}

/** What takes about as long for each pixel. */
const kindOf = ({ format, speed, maxBytes, streamCopy, hardware }: FileShape) =>
  [format ?? 'mp4-h264', speed ?? 'even', maxBytes ? 'fits' : '', streamCopy ? 'copies' : '', hardware ?? ''].join(' ')

/** Seconds for each million of pixels, as far as they were made. */
function costOf(render: TimedRender): number | null {
  const made = render.chunks === 0 ? 1 : (render.chunks - render.reused) / render.chunks
  if (render.chunks > 0 && render.chunks - render.reused < LEAST_MADE) return null
  const amount = amountOf(render) * made
  return amount > 0 ? render.took / amount : null
}

/**
 * How long a render will take with nothing kept from before, in seconds: by what those of the same reel and kind of
 * file took on this machine, else those of any reel. `null` before there was one.
 * @param done finished renders, the newest first
 */
export function estimateSeconds(
  wanted: FileShape,
  reelId: string,
  done: readonly TimedRender[],
): { seconds: number; bySameReel: boolean } | null {
  const alike = done.filter((render) => kindOf(render) === kindOf(wanted))
  for (const [bySameReel, among] of [
    [true, alike.filter((render) => render.reelId === reelId)],
    [false, alike],
  ] as const) {
    const cost = median(among.slice(0, 5).flatMap((render) => costOf(render) ?? []))
    if (cost !== undefined) return { seconds: cost * amountOf(wanted), bySameReel }
  }
  return null
}

/** By how much something came out otherwise than expected, in words: `12 % more`, `as expected`. */
export function offBy(expected: number, found: number): string {
  const part = Math.round((found / expected - 1) * 100)
  return part === 0 ? 'as expected' : `${Math.abs(part)} % ${part > 0 ? 'more' : 'less'}`
}
