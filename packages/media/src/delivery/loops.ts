import { createWriteStream } from 'node:fs'
import { readdir, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { pipeline } from 'node:stream/promises'
import { ZipFile } from 'yazl'
import type { Rate } from '@dusk/timeline'
import { chunkList, listInput, type ChunkFile } from '../join'
import { runTool } from '../tool'
import type { Quality } from './pictureArgs'

/** Pictures without loss, as they are made into something that repeats, or into files of their own. */
export interface LosslessPictures {
  chunks: readonly ChunkFile[]
  rate: Rate
  /** A path for the list of chunks. */
  scratch: string
}

/** How colours that a palette does not have are made of those it has. */
export const DITHERS = { fine: 'sierra2_4a', pattern: 'bayer:bayer_scale=3', none: 'none' } as const
export type Dither = keyof typeof DITHERS

const COLOURS = { draft: 64, good: 160, best: 256 } as const
const WEBP_QUALITY = { draft: 55, good: 78, best: 92 } as const
const JPEG_QUALITY = { draft: 8, good: 4, best: 2 } as const

async function readInto(
  { chunks, rate, scratch }: LosslessPictures,
  args: readonly string[],
  signal?: AbortSignal,
): Promise<void> {
  await writeFile(scratch, chunkList(chunks, rate))
  const pace = ['-r', `${rate.num}/${rate.den}`]
  await runTool('ffmpeg', ['-v', 'error', '-nostdin', '-y', ...pace, ...listInput(scratch), ...args], { signal })
}

/**
 * Makes a GIF that repeats: its palette is made from all pictures, weighted by what moves.
 * @param dither how colours between are shown
 */
export function makeGif(
  pictures: LosslessPictures,
  out: string,
  { quality, dither = 'fine' }: { quality: Quality; dither?: Dither },
  signal?: AbortSignal,
): Promise<void> {
  const palette = `palettegen=max_colors=${COLOURS[quality]}:stats_mode=diff:reserve_transparent=0`
  const graph = `[0:v]split[a][b];[a]${palette}[p];[b][p]paletteuse=dither=${DITHERS[dither]}:diff_mode=rectangle`
  return readInto(pictures, ['-filter_complex', graph, '-loop', '0', '-f', 'gif', out], signal)
}

/** Makes a WebP that repeats; what is seen through stays so. */
export function makeWebp(
  pictures: LosslessPictures,
  out: string,
  quality: Quality,
  signal?: AbortSignal,
): Promise<void> {
  const args = ['-c:v', 'libwebp_anim', '-quality', String(WEBP_QUALITY[quality]), '-compression_level', '4']
  return readInto(pictures, [...args, '-loop', '0', '-f', 'webp', out], signal)
}

/** Writes the first picture as a PNG. */
export function makeStillPng(pictures: LosslessPictures, out: string, signal?: AbortSignal): Promise<void> {
  return readInto(pictures, ['-frames:v', '1', '-c:v', 'png', '-f', 'image2', '-update', '1', out], signal)
}

/**
 * Writes each picture as a file of its own into a ZIP, as it goes: `frame-000001.png` and on.
 * @param folder an empty one for the pictures until they are in
 */
export async function zipPictures(
  pictures: LosslessPictures,
  out: string,
  { codec, quality, folder }: { codec: 'png' | 'jpeg'; quality: Quality; folder: string },
  signal?: AbortSignal,
): Promise<void> {
  const ending = codec === 'png' ? 'png' : 'jpg'
  // JPEG files hold the full range of BT.601 (JFIF), whatever the film is coded in.
  const jpeg = ['-vf', 'scale=out_range=pc:out_color_matrix=bt601:flags=accurate_rnd+full_chroma_int']
  const how =
    codec === 'png'
      ? ['-c:v', 'png']
      : ['-c:v', 'mjpeg', '-q:v', String(JPEG_QUALITY[quality]), '-pix_fmt', 'yuvj444p', ...jpeg]
  await readInto(pictures, [...how, '-f', 'image2', join(folder, `frame-%06d.${ending}`)], signal)
  const zip = new ZipFile()
  // Pictures are squeezed already.
  for (const name of (await readdir(folder)).sort()) zip.addFile(join(folder, name), name, { compress: false })
  zip.end()
  await pipeline(zip.outputStream, createWriteStream(out), { signal })
}
