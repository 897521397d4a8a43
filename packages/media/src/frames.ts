import { frameCount, frameStart, makeFrameTable, TICKS_PER_SECOND, type FrameTable } from '@dusk/timeline'
import { BadMedia } from './badMedia'
import type { SourceInfo, VideoStream } from './probe'
import { readSampleIndex } from './sampleIndex'
import { inputArgs, runTool } from './tool'

/** When a source's pictures are shown, and where its first one lies on the file's own clock. */
export interface PictureTiming {
  table: FrameTable
  /** Asset zero: start of the first picture, in ticks on the file's clock. */
  zero: number
  variable: boolean
  /** The container gives every frame a time, so that a place can be sought; else frames are only found by counting. */
  timed: boolean
}

/**
 * Reads the start of every frame: from the container's index where it can be relied upon, else from the packets, or
 * with `decode` from the frames themselves.
 * @throws {BadMedia} when there is no frame at all
 */
export async function readTiming(
  path: string,
  info: SourceInfo,
  decode = false,
  signal?: AbortSignal,
): Promise<PictureTiming> {
  const indexed = decode ? null : await readSampleIndex(path, info, signal)
  if (!indexed) return readPacketTiming(path, info, decode, signal)
  const last = indexed.reduce((latest, packet) => (packet.at > latest.at ? packet : latest))
  const starts = indexed.map(({ at }) => at)
  return timingOf(info.video!, starts, last.length, true)
}

/**
 * Reads all packets for the start of every frame; where they carry no times, or with `decode`, frames are decoded to
 * find them.
 * @throws {BadMedia} when there is no frame at all
 */
export async function readPacketTiming(
  path: string,
  info: SourceInfo,
  decode = false,
  signal?: AbortSignal,
): Promise<PictureTiming> {
  const video = info.video!
  const what = decode ? 'frame=best_effort_timestamp_time,pkt_duration_time' : 'packet=pts_time,duration_time,flags'
  const args = [
    '-v',
    'error',
    '-select_streams',
    String(video.index),
    '-show_entries',
    what,
    '-of',
    'csv=p=0',
    ...inputArgs(path),
  ]
  const out = (await runTool('ffprobe', args, { signal, timeout: 3_600_000 })).toString('latin1')
  const nominal = ratio(video.averageRate ?? video.rate ?? { num: 25, den: 1 })
  const starts: number[] = []
  let lastLength = 0
  let last = -Infinity
  for (const line of out.split('\n')) {
    if (!line) continue
    const [time, length, flags] = line.split(',')
    if (!decode && flags?.includes('D')) continue
    let at = Number(time)
    if (!Number.isFinite(at)) {
      if (!decode) return readPacketTiming(path, info, true, signal)
      // Frames that the decoder held back to the end of the file come out without a time: each follows the one before.
      at = last > -Infinity ? last + (lastLength || 1 / nominal) : 0
    }
    starts.push(at)
    if (at > last) {
      last = at
      lastLength = Number(length) || 0
    }
  }
  if (starts.length === 0)
    throw new BadMedia('There is no picture in this file that can be decoded. It may be cut short.')
  return timingOf(video, starts, lastLength, !decode)
}

/** @param starts of the frames in any order, and `lastLength` of the last, in seconds; the list is sorted here */
function timingOf(video: VideoStream, starts: number[], lastLength: number, timed: boolean): PictureTiming {
  starts.sort((a, b) => a - b)
  const zero = starts[0]!
  const fromZero = [...new Set(starts.map((at) => Math.round((at - zero) * TICKS_PER_SECOND)))]
  const rate =
    video.rate && video.averageRate && Math.abs(ratio(video.rate) / ratio(video.averageRate) - 1) < 0.02
      ? video.rate
      : video.averageRate
  const table = makeFrameTable(fromZero, rate, Math.round(lastLength * TICKS_PER_SECOND))
  return {
    table,
    zero: Math.round(zero * TICKS_PER_SECOND),
    variable: table.kind === 'listed' && frameCount(table) > 1,
    timed,
  }
}

function ratio(rate: { num: number; den: number }): number {
  return rate.num / rate.den
}

/**
 * Where decoding frame `frame` has to begin, in seconds: `at` on ffmpeg's seek clock (0 at the container's start), and
 * `clock` on that of the file's own time stamps.
 * @param zero start of the first frame on the file's clock, in ticks
 * @param start start of the container's clock, in ticks
 */
export function seekTime(table: FrameTable, zero: number, start: number, frame: number): { at: number; clock: number } {
  // Halfway into the frame before: rounding in the container then never lets it in, nor keeps the wanted one out.
  const middle = (frameStart(table, frame - 1) + frameStart(table, frame)) / 2
  const clock = (zero + middle) / TICKS_PER_SECOND
  return { at: clock - start / TICKS_PER_SECOND, clock }
}

/**
 * Where ffmpeg has to be sent, in seconds on its seek clock, to begin at a frame that is known to stand by itself: a
 * little behind it, so that it is not sent to the one before.
 */
export function keySeekTime(table: FrameTable, zero: number, start: number, frame: number): number {
  const quarter = (frameStart(table, frame + 1) - frameStart(table, frame)) / 4
  return (zero + frameStart(table, frame) + quarter - start) / TICKS_PER_SECOND
}
