import { createWriteStream } from 'node:fs'
import { open, writeFile } from 'node:fs/promises'
import { once } from 'node:events'
import {
  frameCount,
  frameStart,
  SAMPLE_RATE,
  tableLength,
  TICKS_PER_SAMPLE,
  TICKS_PER_SECOND,
  type AssetFacts,
  type FrameTable,
} from '@dusk/timeline'
import { WaveformBuilder, SOUND_HEADER_BYTES, writeSoundHeader } from '@dusk/sound'
import { readTiming, type PictureTiming } from './frames'
import { inputTransform, proxySize, type InputTransform } from './inputTransform'
import { BadMedia, probe, type SourceInfo } from './probe'
import { decodeStill, hasAlpha, writeStill } from './still'
import { inputArgs, runTool } from './tool'

/** Everything known of a source after a first look; enough to put it on the timeline. */
export interface Examined {
  info: SourceInfo
  kind: AssetFacts['kind']
  /** `null` for sounds and stills. */
  timing: PictureTiming | null
  transform: InputTransform | null
  /** Length in ticks; 0 for stills. */
  length: number
  notes: string[]
}

/** A first look at a file. @throws {BadMedia} in words when it can't be used */
export async function examine(path: string, size: number, signal?: AbortSignal): Promise<Examined> {
  const info = await probe(path, size)
  if (info.still) return { info, kind: 'still', timing: null, transform: null, length: 0, notes: [] }
  if (!info.video) {
    if (info.duration <= 0) throw new BadMedia('This sound has no length; it may be damaged.')
    return { info, kind: 'sound', timing: null, transform: null, length: info.duration, notes: [] }
  }
  const timing = await readTiming(path, info, false, signal)
  const transform = inputTransform(info)
  const notes = [...transform.notes]
  if (timing.variable) notes.push('Its frame rate varies; every frame is shown for as long as the file says.')
  return { info, kind: 'video', timing, transform, length: tableLength(timing.table), notes }
}

/** What the document says of an examined source. */
export function describeAsset(
  id: string,
  name: string,
  examined: Examined,
  still?: { width: number; height: number; alpha: boolean },
): AssetFacts {
  const { info, kind, timing, transform, length } = examined
  const rate = timing ? (timing.table.kind === 'steady' ? timing.table.rate : info.video!.averageRate) : null
  return {
    id,
    name,
    kind,
    length,
    picture: still
      ? { ...still, rate: null, variable: false }
      : transform
        ? {
            width: transform.width,
            height: transform.height,
            rate: rate ?? { num: 30, den: 1 },
            variable: timing!.variable,
            alpha: false,
          }
        : null,
    sounds: info.audio.map(({ channels, title }) => ({ channels, length, title })),
  }
}

type Progress = (part: number) => void

/** Calls `progress` with the part done, from ffmpeg's own reports. */
function watch(length: number, progress?: Progress): (line: string) => void {
  return (line) => {
    const match = /^out_time_us=(\d+)/.exec(line)
    if (match && length > 0) progress?.(Math.min((Number(match[1]) / 1e6) * (TICKS_PER_SECOND / length), 1))
  }
}

/** Frames a second that proxies are written with: a frame's number is its time, whatever the source's own times are. */
export const PROXY_RATE = 25
/** Frames between a proxy's keyframes. */
export const PROXY_KEYFRAMES = 15

/**
 * Writes a proxy: H.264 without B-frames, a keyframe every 15, holding the same frames as the source in the same order;
 * frame n is at n / 25 s.
 * @returns number of frames written
 */
export async function makeProxy(
  path: string,
  examined: Examined,
  out: string,
  options: { signal?: AbortSignal; progress?: Progress } = {},
): Promise<number> {
  const { info, transform, timing } = examined
  const size = proxySize(transform!.width, transform!.height)
  const count = frameCount(timing!.table)
  let frames = 0
  const filters = [
    ...transform!.filters,
    `scale=${size.width}:${size.height}:flags=bicubic`,
    'format=yuv420p',
    `setpts=N/${PROXY_RATE}/TB`,
  ]
  await runTool(
    'ffmpeg',
    [
      '-v',
      'error',
      '-nostdin',
      '-y',
      '-progress',
      'pipe:2',
      '-stats_period',
      '0.5',
      ...inputArgs(path),
      '-map',
      `0:${info.video!.index}`,
      '-an',
      '-sn',
      '-dn',
      '-vf',
      filters.join(','),
      '-fps_mode',
      'passthrough',
      '-enc_time_base',
      `1/${PROXY_RATE}`,
      '-c:v',
      'libx264',
      '-preset',
      'veryfast',
      '-crf',
      '23',
      '-bf',
      '0',
      '-g',
      String(PROXY_KEYFRAMES),
      '-keyint_min',
      String(PROXY_KEYFRAMES),
      '-sc_threshold',
      '0',
      '-colorspace',
      'bt709',
      '-color_primaries',
      'bt709',
      '-color_trc',
      'bt709',
      '-color_range',
      'tv',
      '-video_track_timescale',
      String(PROXY_RATE),
      '-movflags',
      '+faststart',
      '-f',
      'mp4',
      out,
    ],
    {
      signal: options.signal,
      onLine: (line) => {
        const match = /^frame=\s*(\d+)/.exec(line)
        if (!match) return
        frames = Number(match[1])
        options.progress?.(Math.min(frames / count, 1))
      },
    },
  )
  if (frames === 0) throw new BadMedia('Not one picture of this file could be decoded. It may be damaged.')
  return frames
}

/** A film strip: small pictures at even steps, in rows on one sheet. */
export interface StripInfo {
  tileWidth: number
  tileHeight: number
  columns: number
  /** Source time of each tile in ticks. */
  times: number[]
}

const TILE_HEIGHT = 72

/** Draws the film strip of a proxy, at most 160 pictures of 72 pixels height, as a JPEG sheet. */
export async function makeStrip(
  proxy: string,
  table: FrameTable,
  size: { width: number; height: number },
  out: string,
  signal?: AbortSignal,
): Promise<StripInfo> {
  const frames = frameCount(table)
  const length = tableLength(table)
  const wanted = Math.min(160, Math.max(1, Math.ceil(length / (TICKS_PER_SECOND / 2))))
  const step = Math.max(1, Math.round(frames / wanted))
  const count = Math.ceil(frames / step)
  const columns = Math.min(count, 16)
  const tileWidth = Math.max(2, Math.round((TILE_HEIGHT * size.width) / size.height / 2) * 2)
  const filter =
    `select='not(mod(n,${step}))',scale=${tileWidth}:${TILE_HEIGHT}:flags=area,` +
    `tile=${columns}x${Math.ceil(count / columns)}`
  await runTool(
    'ffmpeg',
    [
      '-v',
      'error',
      '-nostdin',
      '-y',
      ...inputArgs(proxy),
      '-an',
      '-vf',
      filter,
      '-frames:v',
      '1',
      '-q:v',
      '4',
      '-f',
      'image2',
      '-update',
      '1',
      out,
    ],
    { signal, timeout: 3_600_000 },
  )
  return {
    tileWidth,
    tileHeight: TILE_HEIGHT,
    columns,
    times: Array.from({ length: count }, (_, i) => frameStart(table, i * step)),
  }
}

/** The sheet of a still is one tile. */
export async function makeStillStrip(
  original: string,
  size: { width: number; height: number },
  out: string,
): Promise<StripInfo> {
  const tileWidth = Math.max(2, Math.round((TILE_HEIGHT * size.width) / size.height))
  const filter = `scale=${tileWidth}:${TILE_HEIGHT}:flags=area,format=rgba`
  await runTool(
    'ffmpeg',
    [
      '-v',
      'error',
      '-nostdin',
      '-y',
      ...inputArgs(original),
      '-frames:v',
      '1',
      '-vf',
      filter,
      '-c:v',
      'png',
      '-f',
      'image2',
      '-update',
      '1',
      out,
    ],
    { timeout: 120_000 },
  )
  return { tileWidth, tileHeight: TILE_HEIGHT, columns: 1, times: [0] }
}

/**
 * Writes the canonical sound of one stream (see `soundFile`) and its waveform. Sample 0 is asset zero: a stream that
 * starts later begins with silence, one that starts earlier is cut.
 * @returns samples written a channel
 */
export async function makeSound(
  path: string,
  examined: Examined,
  stream: number,
  out: string,
  waveformOut: string,
  options: { signal?: AbortSignal; progress?: Progress } = {},
): Promise<number> {
  const { info, timing } = examined
  const { channels, index } = info.audio[stream]!
  const zero = timing ? (timing.zero - info.start) / TICKS_PER_SECOND : 0
  const filters = [
    ...(zero !== 0 ? [`asetpts=PTS-${zero.toFixed(9)}/TB`] : []),
    `aresample=${SAMPLE_RATE}:resampler=swr:filter_size=64:async=1:first_pts=0`,
  ]
  const file = createWriteStream(out)
  file.write(writeSoundHeader({ channels, sampleRate: SAMPLE_RATE, samples: 0 }))
  const waveform = new WaveformBuilder(channels)
  const frame = channels * 4
  let rest = Buffer.alloc(0)
  let samples = 0
  let failed: Error | null = null
  file.on('error', (error) => (failed = error))
  await runTool(
    'ffmpeg',
    [
      '-v',
      'error',
      '-nostdin',
      '-progress',
      'pipe:2',
      '-stats_period',
      '0.5',
      ...inputArgs(path),
      '-map',
      `0:${index}`,
      '-vn',
      '-sn',
      '-dn',
      '-af',
      filters.join(','),
      '-ac',
      String(channels),
      '-c:a',
      'pcm_f32le',
      '-f',
      'f32le',
      'pipe:1',
    ],
    {
      signal: options.signal,
      onLine: watch(examined.length, options.progress),
      onData: (data) => {
        const all = rest.length > 0 ? Buffer.concat([rest, data]) : data
        const whole = all.length - (all.length % frame)
        rest = Buffer.from(all.subarray(whole))
        if (whole === 0) return
        // A copy: the floats must lie on a multiple of four.
        const block = new Float32Array(all.buffer.slice(all.byteOffset, all.byteOffset + whole))
        samples += whole / frame
        waveform.push(block)
        file.write(Buffer.from(block.buffer))
      },
    },
  )
  file.end()
  if (!failed) await once(file, 'close')
  if (failed) throw failed
  const handle = await open(out, 'r+')
  await handle.write(writeSoundHeader({ channels, sampleRate: SAMPLE_RATE, samples }), 0, SOUND_HEADER_BYTES, 0)
  await handle.close()
  await writeFile(waveformOut, waveform.finish())
  return samples
}

/** Ticks of a number of samples. */
export function samplesToTicks(samples: number): number {
  return samples * TICKS_PER_SAMPLE
}

/** Decodes a still for preview and render. */
export async function makeStill(path: string, examined: Examined, full: string, proxy: string, signal?: AbortSignal) {
  const still = await decodeStill(path, examined.info, undefined, signal)
  await writeStill(full, still)
  const small =
    Math.max(still.width, still.height) > 1920 ? await decodeStill(path, examined.info, 1920, signal) : still
  await writeStill(proxy, small)
  return { width: still.width, height: still.height, alpha: hasAlpha(still) }
}
