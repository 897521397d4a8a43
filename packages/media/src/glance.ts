import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import sharp from 'sharp'
import { frameAt, frameCount, frameStart, TICKS_PER_SECOND, type SourceMetadata } from '@dusk/timeline'
import { words } from './arguments'
import { BadMedia } from './badMedia'
import { copyKeyframes } from './keyframeFilm'
import { inPassingFolder } from './scratch'
import { STRIP_HEIGHT, stripWidth, type StripInfo } from './strip'
import { inputArgs, runTool, ToolError } from './tool'

/** Pictures that are decoded at once. */
const PARALLEL = 2

/**
 * A first film strip, of keyframes alone: of each place the keyframe before it is all that is decoded, so that hours of
 * footage are seen within seconds.
 * @param most pictures on it at most; there are no more than two a second
 * @returns the sheet as a JPEG, and where on the source its pictures stand, in ticks
 * @throws {BadMedia} when not one picture could be decoded
 */
export async function makeGlance(
  path: string,
  metadata: SourceMetadata,
  most: number,
  signal?: AbortSignal,
): Promise<{ bytes: Buffer; strip: StripInfo }> {
  const table = metadata.table!
  const wanted = Math.min(most, Math.max(1, Math.ceil((metadata.length / TICKS_PER_SECOND) * 2)), frameCount(table))
  const tileWidth = stripWidth({ width: metadata.width!, height: metadata.height! })
  const times = Array.from({ length: wanted }, (_, i) =>
    frameStart(table, frameAt(table, Math.floor((metadata.length * i) / wanted))),
  )
  const tiles =
    (await keyframesAtOnce(path, metadata, times, tileWidth, signal)) ??
    (await keyframesSought(path, metadata, times, tileWidth, signal))
  const first = tiles.find((tile) => tile !== null)
  if (!first) throw new BadMedia('Not one picture of this file could be decoded. It may be damaged.')
  const columns = Math.min(wanted, 16)
  const raw = { width: tileWidth, height: STRIP_HEIGHT, channels: 3 as const }
  // A place that could not be decoded shows what stands before it.
  let shown = first
  const laid = tiles.map((tile, i) => ({
    input: (shown = tile ?? shown),
    raw,
    left: (i % columns) * tileWidth,
    top: Math.floor(i / columns) * STRIP_HEIGHT,
  }))
  const sheet = { width: columns * tileWidth, height: Math.ceil(wanted / columns) * STRIP_HEIGHT, channels: 3 as const }
  const bytes = await sharp({ create: { ...sheet, background: '#000' } })
    .composite(laid)
    .jpeg({ quality: 84 })
    .toBuffer()
  return { bytes, strip: { tileWidth, tileHeight: STRIP_HEIGHT, columns, times } }
}

/** ffmpeg filters that bring a frame to the size of a tile, as RGB. */
const toTile = ({ filters }: SourceMetadata, width: number) =>
  [...filters, `scale=${width}:${STRIP_HEIGHT}:flags=area`, 'format=rgb24'].join(',')

/** Keyframes before source times, by one decoder; `null` where they have to be sought one by one. */
export async function keyframesAtOnce(
  path: string,
  metadata: SourceMetadata,
  times: readonly number[],
  width: number,
  signal?: AbortSignal,
): Promise<Buffer[] | null> {
  // What is woven of two fields needs its neighbours.
  if (metadata.filters.some((filter) => filter.includes('dif'))) return null
  const clock = times.map((time) => (metadata.zero + time) / TICKS_PER_SECOND)
  const film = await copyKeyframes(path, clock).catch(() => null)
  signal?.throwIfAborted()
  if (!film) return null
  try {
    const bytes = await inPassingFolder(async (folder) => {
      const copy = join(folder, 'keyframes.mp4')
      await writeFile(copy, film.bytes)
      const args = [
        ...words('-v error -nostdin', inputArgs(copy), '-map 0:v:0 -vf', [toTile(metadata, width)]),
        ...words('-fps_mode passthrough -f rawvideo pipe:1'),
      ]
      return runTool('ffmpeg', args, { signal, timeout: 60_000 })
    })
    const size = width * STRIP_HEIGHT * 3
    if (bytes.length !== film.count * size) return null
    return film.indices.map((n) => bytes.subarray(n * size, (n + 1) * size))
  } catch (error) {
    if (error instanceof ToolError) return null
    throw error
  }
}

/** Keyframes before source times, each sought by a decoder of its own; `null` for those that can't be decoded. */
export async function keyframesSought(
  path: string,
  metadata: SourceMetadata,
  times: readonly number[],
  width: number,
  signal?: AbortSignal,
): Promise<(Buffer | null)[]> {
  const tiles: (Buffer | null)[] = times.map(() => null)
  let next = 0
  const work = async () => {
    for (let i = next++; i < times.length; i = next++)
      tiles[i] = await keyframe(path, metadata, times[i]!, width, signal)
  }
  await Promise.all(Array.from({ length: Math.min(PARALLEL, times.length) }, work))
  return tiles
}

/** The keyframe at or before a source time as RGB at the size of a tile, or `null`. */
async function keyframe(
  path: string,
  metadata: SourceMetadata,
  time: number,
  width: number,
  signal?: AbortSignal,
): Promise<Buffer | null> {
  const at = (metadata.zero + time - metadata.start) / TICKS_PER_SECOND
  const args = [
    ...words('-v error -nostdin -skip_frame nokey -noaccurate_seek', time > 0 ? ['-ss', at.toFixed(6)] : []),
    ...words(inputArgs(path), '-map', [`0:${metadata.videoIndex}`], '-an -sn -dn -frames:v 1 -vf', [
      toTile(metadata, width),
    ]),
    ...words('-f rawvideo pipe:1'),
  ]
  try {
    const bytes = await runTool('ffmpeg', args, { signal, timeout: 60_000 })
    return bytes.length === width * STRIP_HEIGHT * 3 ? bytes : null
  } catch (error) {
    if (error instanceof ToolError) return null
    throw error
  }
}
