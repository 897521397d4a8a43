import { deflate, inflate } from 'node:zlib'
import { promisify } from 'node:util'
import { readFile, writeFile } from 'node:fs/promises'
import { stillHeader, readStillHeader, STILL_HEADER_BYTES } from '@dusk/timeline'
import { BadMedia, type SourceInfo } from './probe'
import { inputArgs, runTool, ToolError } from './tool'

const LARGEST = 8192

/** A still's pixels: straight alpha, four bytes each. */
export interface StillPixels {
  width: number
  height: number
  pixels: Uint8Array
}

/**
 * Decodes a picture once and for all, since decoders differ on JPEG; upright, and at most 8192 a side.
 * @param longest brings it down to this many pixels on the long side
 */
export async function decodeStill(
  path: string,
  info: SourceInfo,
  longest = LARGEST,
  signal?: AbortSignal,
): Promise<StillPixels> {
  const video = info.video!
  const sideways = video.turn === 90 || video.turn === 270
  const [w, h] = sideways ? [video.height, video.width] : [video.width, video.height]
  const scale = Math.min(1, longest / Math.max(w, h))
  const [width, height] = [Math.max(1, Math.round(w * scale)), Math.max(1, Math.round(h * scale))]
  try {
    const pixels = await runTool(
      'ffmpeg',
      [
        '-v',
        'error',
        '-nostdin',
        ...inputArgs(path),
        '-frames:v',
        '1',
        '-vf',
        `scale=${width}:${height}:flags=lanczos+accurate_rnd+full_chroma_int,format=rgba`,
        '-f',
        'rawvideo',
        'pipe:1',
      ],
      { signal, timeout: 120_000 },
    )
    if (pixels.length !== width * height * 4)
      throw new BadMedia('This picture ends too early. Copy it again from where it came from.')
    return { width, height, pixels }
  } catch (error) {
    if (error instanceof ToolError) throw new BadMedia('This picture can’t be decoded; it may be damaged.')
    throw error
  }
}

/** Whether any pixel lets something through. */
export function hasAlpha({ pixels }: StillPixels): boolean {
  for (let i = 3; i < pixels.length; i += 4) if (pixels[i] !== 255) return true
  return false
}

/** Writes a still in the form that preview and render read (see {@link stillHeader}). */
export async function writeStill(path: string, still: StillPixels): Promise<void> {
  const body = await promisify(deflate)(still.pixels, { level: 3 })
  await writeFile(path, Buffer.concat([stillHeader(still.width, still.height), body]))
}

/** @throws {Error} when the file is not such a still */
export async function readStill(path: string): Promise<StillPixels> {
  const file = await readFile(path)
  const { width, height } = readStillHeader(file)
  const pixels = await promisify(inflate)(file.subarray(STILL_HEADER_BYTES))
  return { width, height, pixels }
}
