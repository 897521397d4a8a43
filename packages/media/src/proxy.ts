import { frameCount, PROXY_KEYFRAMES, PROXY_RATE, type SourceMetadata } from '@dusk/timeline'
import { words } from './arguments'
import { BadMedia } from './badMedia'
import { FRAME_PROGRESS_ARGS, frameProgress } from './frameProgress'
import { frameReaderInput } from './frameReader'
import { proxySize } from './inputTransform'
import { inputArgs, runTool } from './tool'

/** What making a proxy brought to light. */
export interface MadeProxy {
  width: number
  height: number
  /** Frames written. */
  frames: number
  /** Hash of the decoded, untransformed frame by its number, for those that were asked for. */
  hashes: Map<number, string>
}

export interface ProxyOptions {
  /** The frames that are written, all by default. Where they begin is sought, which the source has to allow. */
  first?: number
  count?: number
  /** Numbers of frames, from the first on, whose decoded pixels are hashed on the way; also some beyond the last. */
  sampled?: readonly number[]
  signal?: AbortSignal
  progress?: (part: number) => void
}

/**
 * Writes a proxy or a piece of one: H.264 without B-frames, a keyframe every 15, holding the same frames as the source
 * in the same order; the n-th frame in it is at n / 25 s.
 * @throws {BadMedia} when not one picture can be decoded
 */
export async function makeProxy(
  path: string,
  metadata: SourceMetadata,
  out: string,
  options: ProxyOptions = {},
): Promise<MadeProxy> {
  const size = proxySize(metadata.width!, metadata.height!)
  const { first = 0, count = Infinity } = options
  const expected = Math.min(count, frameCount(metadata.table!) - first)
  const sampled = [...(options.sampled ?? [])].sort((a, b) => a - b)
  const begin = frameReaderInput(metadata, first)
  let frames = 0
  const filters = [
    ...begin.filters,
    ...metadata.filters,
    `scale=${size.width}:${size.height}:flags=bicubic`,
    'format=yuv420p',
    `setpts=N/${PROXY_RATE}/TB`,
  ].join(',')
  const stream = `0:${metadata.videoIndex}`
  const colour = '-colorspace bt709 -color_primaries bt709 -color_trc bt709 -color_range tv'
  const looked = [...begin.filters, chosen(sampled.map((n) => n - first))].join(',')
  const hashes =
    sampled.length === 0
      ? []
      : words('-map', [stream], '-an -sn -dn -vf', [looked], `-frames:v ${sampled.length}`).concat(
          words('-fps_mode passthrough -f framehash -hash adler32 pipe:1'),
        )
  const log = await runTool(
    'ffmpeg',
    [
      ...words('-v error -nostdin -y -max_error_rate 1', FRAME_PROGRESS_ARGS),
      ...words(begin.before, inputArgs(path)),
      ...words('-map', [stream], '-an -sn -dn -vf', [filters], count === Infinity ? [] : ['-frames:v', String(count)]),
      ...words(`-fps_mode passthrough -enc_time_base 1/${PROXY_RATE}`),
      ...words(`-c:v libx264 -preset veryfast -crf 23 -bf 0 -g ${PROXY_KEYFRAMES}`),
      ...words(`-keyint_min ${PROXY_KEYFRAMES} -sc_threshold 0 ${colour}`),
      // The last frame too is shown for its time: a film of one frame would have none otherwise.
      ...words(
        `-bsf:v setts=duration=1 -video_track_timescale ${PROXY_RATE} -movflags +faststart -f mp4`,
        [out],
        hashes,
      ),
    ],
    {
      signal: options.signal,
      background: true,
      onLine: frameProgress((found) => {
        frames = found
        options.progress?.(Math.min(frames / expected, 1))
      }),
    },
  )
  if (frames === 0) throw new BadMedia('Not one picture of this file could be decoded. It may be damaged.')
  const found = readHashes(log.toString('latin1'))
  return { ...size, frames, hashes: new Map(sampled.slice(0, found.length).map((n, i) => [n, found[i]!])) }
}

/** A filter that lets only frames of these numbers pass. */
function chosen(numbers: readonly number[]): string {
  return `select='${numbers.map((n) => `eq(n,${n})`).join('+')}'`
}

/** Hashes in the output of ffmpeg's framehash, in order. */
export function readHashes(text: string): string[] {
  return text
    .split('\n')
    .filter((line) => line && !line.startsWith('#'))
    .map((line) => line.split(',').at(-1)!.trim())
}
