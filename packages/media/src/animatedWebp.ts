import { open } from 'node:fs/promises'
import { once } from 'node:events'
import sharp from 'sharp'
import { BadMedia } from './badMedia'
import { ended, startTool, tail } from './tool'

/** Longest side, and most pixels of all pictures together, of what is taken. */
const LARGEST = 8192
const MOST_PIXELS = 4_000_000_000
const MOST_PAGES = 20_000
/** Pixels that are decoded at once: reading from the middle on costs all that lies before. */
const AT_ONCE = 32_000_000
/** Time that browsers give pictures which name none, or hardly any, in milliseconds. */
const PAUSE = 100
const LEAST_PAUSE = 11

/** Whether a file is a WebP of several pictures: its extended header says so (RFC 9649 § 2.7, bit A). */
export async function isAnimatedWebp(path: string): Promise<boolean> {
  const handle = await open(path)
  try {
    const head = Buffer.alloc(21)
    const { bytesRead } = await handle.read(head, 0, 21, 0)
    const tag = (at: number) => head.toString('latin1', at, at + 4)
    return bytesRead === 21 && tag(0) === 'RIFF' && tag(8) === 'WEBP' && tag(12) === 'VP8X' && (head[20]! & 2) !== 0
  } finally {
    await handle.close()
  }
}

/** How often each picture of an animation is repeated at a rate at which all last a whole number of frames. */
export function evenly(delays: readonly number[]): { rate: string; repeats: number[] } {
  // To the hundredth of a second, as the form it comes from counts; what is next to nothing lasts a tenth.
  const lasting = delays.map((delay) => (delay < LEAST_PAUSE ? PAUSE : Math.max(10, Math.round(delay / 10) * 10)))
  const gcd = (a: number, b: number): number => (b === 0 ? a : gcd(b, a % b))
  // Where all last equally long, that is the rate, to the millisecond.
  if (delays.every((delay) => delay === delays[0] && delay >= LEAST_PAUSE))
    return { rate: `1000/${delays[0]!}`, repeats: delays.map(() => 1) }
  const step = lasting.reduce(gcd)
  return { rate: `1000/${step}`, repeats: lasting.map((delay) => delay / step) }
}

/**
 * Makes lossless footage of an animated WebP, which neither browsers' nor servers' decoders of footage read. The same
 * file comes out each time, so that it is known again.
 * @param out a Matroska file
 * @throws {BadMedia} in words when it can't be decoded
 */
export async function convertAnimatedWebp(path: string, out: string, signal?: AbortSignal): Promise<void> {
  const {
    pages = 1,
    delay,
    width = 0,
    pageHeight = 0,
  } = await sharp(path, { animated: true })
    .metadata()
    .catch(() => refuse())
  if (width > LARGEST || pageHeight > LARGEST || pages > MOST_PAGES || width * pageHeight * pages > MOST_PIXELS)
    throw new BadMedia(`This animation is too large: ${pages} pictures of ${width} × ${pageHeight}. Make it smaller.`)
  const { rate, repeats } = evenly(delay?.length === pages ? delay : Array.from({ length: pages }, () => PAUSE))
  const input = [
    '-f',
    'rawvideo',
    '-pix_fmt',
    'rgba',
    '-s',
    `${width}x${pageHeight}`,
    '-framerate',
    rate,
    '-i',
    'pipe:0',
  ]
  const exact = ['-fflags', '+bitexact', '-flags:v', '+bitexact', '-map_metadata', '-1']
  const codec = ['-c:v', 'ffv1', '-level', '3', '-g', '1', '-threads', '1', '-pix_fmt', 'bgra']
  const args = ['-v', 'error', '-nostdin', '-y', ...input, ...codec, ...exact, '-f', 'matroska', out]
  const child = startTool('ffmpeg', args, 'pipe')
  child.stdout!.resume()
  child.stdin!.on('error', () => {})
  const done = ended(child, 'ffmpeg', tail(child.stderr!))
  done.catch(() => {})
  const kill = () => void child.kill('SIGKILL')
  signal?.addEventListener('abort', kill)
  try {
    const size = width * pageHeight * 4
    const some = Math.max(1, Math.floor(AT_ONCE / (width * pageHeight)))
    for (let page = 0; page < pages; page += some) {
      signal?.throwIfAborted()
      const count = Math.min(some, pages - page)
      const pixels = await sharp(path, { page, pages: count, limitInputPixels: MOST_PIXELS, failOn: 'truncated' })
        .ensureAlpha()
        .raw()
        .toBuffer()
        .catch(() => refuse())
      for (let n = 0; n < count; n++)
        for (let again = 0; again < repeats[page + n]!; again++)
          if (!child.stdin!.write(pixels.subarray(n * size, (n + 1) * size)))
            await Promise.race([once(child.stdin!, 'drain'), done])
    }
    child.stdin!.end()
    await done
  } catch (error) {
    kill()
    signal?.throwIfAborted()
    throw error
  } finally {
    signal?.removeEventListener('abort', kill)
  }
}

function refuse(): never {
  throw new BadMedia('This animation can’t be decoded; it may be damaged. Save it again as a WebP, a GIF or an MP4.')
}
