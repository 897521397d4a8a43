import { execFile } from 'node:child_process'
import { mkdtemp, open, readdir, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import sharp, { type Metadata, type Sharp } from 'sharp'
import { BadMedia } from './badMedia'
import { SNIFF_BYTES, sniffStill, type StillFormat } from './sniff'
import { inputArgs, runTool, ToolError } from './tool'

/** Longest side of a picture that is worked with, in pixels. */
const LARGEST = 8192
/** Most pixels that are decoded: what a 4-byte picture of 2 GiB holds. */
const MOST_PIXELS = 536_870_912
/** Longest side of the picture that previews draw from. */
export const STILL_PREVIEW = 1920
const TILE_HEIGHT = 144
/** Its width at most: JPEG and WebP hold no more than some ten thousand pixels a side. */
const MOST_TILE_WIDTH = 4096

// Each picture is decoded once or twice, far apart: a cache would only hold memory.
sharp.cache(false)

/** What is known of a picture before it is decoded. Sizes are upright, by EXIF and HEIF orientation. */
export interface StillInfo {
  format: StillFormat
  width: number
  height: number
  alpha: boolean
  notes: string[]
}

/** A still's pixels: straight alpha, four bytes each, coded for BT.709 primaries as sRGB. */
export interface StillPixels {
  width: number
  height: number
  pixels: Uint8Array
}

/** The kind of picture in a file, or `null` when it holds footage, sound or something else. */
export async function stillFormat(path: string): Promise<StillFormat | null> {
  const handle = await open(path)
  try {
    const head = new Uint8Array(SNIFF_BYTES)
    const { bytesRead } = await handle.read(head, 0, SNIFF_BYTES, 0)
    const format = sniffStill(head.subarray(0, bytesRead))
    if (format !== 'gif') return format
  } finally {
    await handle.close()
  }
  // A GIF of one picture is a still, one of several is footage.
  const { pages } = await sharp(path).metadata().catch(refuse)
  return (pages ?? 1) > 1 ? null : 'gif'
}

/** A decoder for a picture, which stands it upright and brings its colour profile to sRGB. */
interface OpenStill {
  image: Sharp
  metadata: Metadata
  close(): Promise<void>
}

const OPTIONS = { limitInputPixels: MOST_PIXELS, failOn: 'truncated' as const }

async function openStill(path: string, format: StillFormat, signal?: AbortSignal): Promise<OpenStill> {
  const nothing = async () => {}
  if (format === 'heic') {
    const folder = await mkdtemp(join(tmpdir(), 'dusk-heic-'))
    const close = () => rm(folder, { recursive: true, force: true })
    try {
      // It stands the picture upright itself and keeps its colour profile.
      const out = join(folder, 'picture.png')
      await promisify(execFile)('prlimit', ['--as=6442450944', 'heif-convert', path, out], { signal, timeout: 120_000 })
      // Of several, as of a burst, each gets a number.
      const files = await readdir(folder)
      const image = sharp(files.includes('picture.png') ? out : join(folder, 'picture-1.png'), OPTIONS)
      const pages = files.filter((name) => /^picture(-\d+)?\.png$/.test(name)).length
      return { image, metadata: { ...(await image.metadata()), pages }, close }
    } catch (error) {
      await close()
      signal?.throwIfAborted()
      if ((error as NodeJS.ErrnoException).code === 'ENOENT')
        throw new BadMedia('HEIC pictures need Debian’s libheif-examples. Install it, or add the picture as JPEG.')
      throw new BadMedia('This picture can’t be decoded; it may be damaged.')
    }
  }
  if (format === 'bmp') {
    const args = ['-v', 'error', '-nostdin', ...inputArgs(path), '-frames:v', '1', '-c:v', 'png', '-f', 'image2pipe']
    const png = await runTool('ffmpeg', [...args, 'pipe:1'], { signal, timeout: 120_000 }).catch((error) => {
      if (error instanceof ToolError) throw new BadMedia('This picture can’t be decoded; it may be damaged.')
      throw error
    })
    const image = sharp(png, OPTIONS)
    return { image, metadata: await image.metadata().catch(refuse), close: nothing }
  }
  const image = sharp(path, OPTIONS)
  const metadata = await image.metadata().catch(refuse)
  return { image: image.autoOrient(), metadata, close: nothing }
}

function refuse(error: unknown): never {
  const { message } = error as Error
  if (/pixel limit/i.test(message))
    throw new BadMedia('This picture has more than 536 million pixels. Make it smaller and add it again.')
  if (/premature|truncated|end of file|too short|short read/i.test(message))
    throw new BadMedia('This picture ends too early. Copy it again from where it came from.')
  throw new BadMedia('This picture can’t be decoded; it may be damaged.')
}

/** Width and height brought within `longest`, in proportion. */
function within(width: number, height: number, longest: number): { width: number; height: number } {
  const scale = Math.min(1, longest / Math.max(width, height))
  return { width: Math.max(1, Math.round(width * scale)), height: Math.max(1, Math.round(height * scale)) }
}

/** Reads what a picture holds from its header. @throws {BadMedia} in words when it can't be opened */
export async function readStillInfo(path: string, format: StillFormat, signal?: AbortSignal): Promise<StillInfo> {
  const { metadata, close } = await openStill(path, format, signal)
  await close()
  const upright = (format !== 'heic' && metadata.autoOrient) || metadata
  if (!upright.width || !upright.height) throw new BadMedia('This picture has no size; it may be damaged.')
  const size = within(upright.width, upright.height, LARGEST)
  const notes: string[] = []
  if (format !== 'heic' && (metadata.orientation ?? 1) > 1) notes.push('Stood upright as the camera says.')
  if (size.width !== upright.width)
    notes.push(`Larger than can be worked on: brought down to ${size.width} × ${size.height}.`)
  if (metadata.space === 'cmyk') notes.push('Colours for print (CMYK) were brought to those of the screen.')
  if ((metadata.pages ?? 1) > 1) notes.push(`Holds ${metadata.pages} pictures; the first is taken.`)
  return { format, ...size, alpha: metadata.hasAlpha ?? false, notes }
}

/**
 * Decodes a picture: upright, in sRGB, at most 8192 a side. The same library of the same version decodes it on every
 * machine, so that nothing as large as its pixels has to be kept.
 * @param longest brings it down to this many pixels on the long side
 * @throws {BadMedia} in words when it is damaged
 */
export async function decodeStill(
  path: string,
  format: StillFormat,
  longest = LARGEST,
  signal?: AbortSignal,
): Promise<StillPixels> {
  const { data, info } = await withStill(path, format, longest, signal, (image) =>
    image.ensureAlpha().raw().toBuffer({ resolveWithObject: true }),
  )
  return { width: info.width, height: info.height, pixels: new Uint8Array(data.buffer, data.byteOffset, data.length) }
}

/** A picture as PNG, without loss: what a browser gets, since decoders differ on JPEG. */
export async function stillToPng(
  path: string,
  format: StillFormat,
  longest = LARGEST,
  signal?: AbortSignal,
): Promise<Buffer> {
  return withStill(path, format, longest, signal, (image) =>
    image.png({ compressionLevel: 2, adaptiveFiltering: false }).toBuffer(),
  )
}

/** Reads a PNG that {@link stillToPng} made. */
export async function readPng(path: string): Promise<StillPixels> {
  const { data, info } = await sharp(path, OPTIONS).ensureAlpha().raw().toBuffer({ resolveWithObject: true })
  return { width: info.width, height: info.height, pixels: new Uint8Array(data.buffer, data.byteOffset, data.length) }
}

/** Writes pixels, straight RGBA of which the alpha is left out, as a JPEG. */
export async function savePicture({ width, height, pixels }: StillPixels, path: string): Promise<void> {
  await sharp(pixels, { raw: { width, height, channels: 4 } })
    .removeAlpha()
    .jpeg({ quality: 86 })
    .toFile(path)
}

/**
 * Writes a small JPEG of a picture, or of the first of several in one file.
 * @param from path or bytes of the file
 * @param height in pixels
 */
export async function makeSmallPicture(from: string | Buffer, out: string, height: number): Promise<void> {
  await sharp(from, { ...OPTIONS, page: 0 })
    .resize({ height })
    .flatten()
    .jpeg({ quality: 84 })
    .toFile(out)
}

/** A small picture of a still for cards and timelines: JPEG, or PNG where something shows through. */
export async function makeStillTile(path: string, info: StillInfo, signal?: AbortSignal) {
  const tileWidth = Math.min(MOST_TILE_WIDTH, Math.max(1, Math.round((TILE_HEIGHT * info.width) / info.height)))
  const bytes = await withStill(path, info.format, null, signal, (image) => {
    const small = image.resize(tileWidth, TILE_HEIGHT, { fit: 'fill' })
    return (info.alpha ? small.png() : small.jpeg({ quality: 84 })).toBuffer()
  })
  const type = info.alpha ? ('png' as const) : ('jpg' as const)
  return { bytes, type, strip: { tileWidth, tileHeight: TILE_HEIGHT, columns: 1, times: [0] } }
}

async function withStill<T>(
  path: string,
  format: StillFormat,
  longest: number | null,
  signal: AbortSignal | undefined,
  use: (image: Sharp) => Promise<T>,
): Promise<T> {
  const { image, close } = await openStill(path, format, signal)
  try {
    signal?.throwIfAborted()
    const fitted =
      longest === null ? image : image.resize(longest, longest, { fit: 'inside', withoutEnlargement: true })
    return await use(fitted.toColourspace('srgb')).catch(refuse)
  } finally {
    await close()
  }
}
