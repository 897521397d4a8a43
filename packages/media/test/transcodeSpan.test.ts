import { execFileSync } from 'node:child_process'
import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import type { SourceMetadata } from '@dusk/timeline'
import {
  chunkEnding,
  ChunkEncoder,
  FrameReader,
  NothingDecoded,
  transcodeSpan,
  type PictureEncoding,
  type SourceSpan,
} from '../src/index'
import { ffmpeg, folder, look } from './helpers'

const dir = folder()
const RATE = { num: 30_000, den: 1001 }
const FRAMES = 75
/** Footage that says much of itself that has no place in a finished file, or is read in its own way. */
const SOURCES = {
  'camera.mp4': '-c:v libx264 -bf 3 -g 30 -pix_fmt yuv420p -colorspace bt709 -color_primaries bt709 -color_trc bt709',
  'untagged.mp4': '-c:v libx264 -g 40 -pix_fmt yuv420p',
  'fields.ts': '-vf fieldorder=tff -c:v mpeg2video -flags +ilme+ildct -top 1 -b:v 3M -pix_fmt yuv420p -f mpegts',
  'full.avi': '-c:v mjpeg -q:v 3 -pix_fmt yuvj420p -sws_flags lanczos',
  'wide.mov': '-c:v prores_ks -pix_fmt yuv422p10le -colorspace bt709',
  'web.webm': '-c:v libvpx-vp9 -deadline realtime -cpu-used 8 -b:v 500k -pix_fmt yuv420p',
  'deep.mkv':
    '-c:v libx265 -preset ultrafast -x265-params log-level=error -pix_fmt yuv420p10le -color_primaries bt2020',
} as const
type Source = keyof typeof SOURCES
/** Those with a trap of their own; the rest is tried by `./dusk test --long`. */
const QUICK: Source[] = ['untagged.mp4', 'fields.ts', 'full.avi', 'deep.mkv']
const tried = process.env.DUSK_LONG ? (Object.keys(SOURCES) as Source[]) : QUICK
const known = new Map<Source, SourceMetadata>()

async function source(name: Source): Promise<{ path: string; metadata: SourceMetadata }> {
  const path = join(dir, name)
  if (!known.has(name)) {
    ffmpeg(`-f lavfi -i testsrc2=s=160x90:r=${RATE.num}/${RATE.den} -frames:v ${FRAMES} ${SOURCES[name]}`, path)
    known.set(name, await look(path))
  }
  return { path, metadata: known.get(name)! }
}

const encodingOf = (change: Partial<PictureEncoding> = {}): PictureEncoding => ({
  ...{ width: 160, height: 90, rate: RATE, codec: 'h264', quality: 'draft', ...change },
})

/** Coded pictures of a chunk with their times, and what its stream says of itself. */
function coded(path: string): string {
  const pictures = execFileSync('ffmpeg', ['-v', 'error', '-i', path, ...'-c copy -f framehash -'.split(' ')])
  const stream = execFileSync('ffprobe', ['-v', 'error', '-show_streams', path])
  return `${pictures}${stream}`
}

let made = 0
/** A span as it is made in one process, and as a reader's frames are that are handed to an encoder. */
async function both(name: Source, span: SourceSpan, encoding = encodingOf()): Promise<[string, string]> {
  const { path, metadata } = await source(name)
  const [one, two] = [0, 1].map(() => join(dir, `${++made}.${chunkEnding(encoding)}`)) as [string, string]
  const seen: number[] = []
  await transcodeSpan(path, metadata, { ...span, out: one }, encoding, { encoded: (frames) => seen.push(frames) })
  expect(seen.at(-1)).toBe(span.count)
  const reader = new FrameReader(path, metadata, span.first, span.step)
  const encoder = new ChunkEncoder(encoding, two)
  let last: Buffer | null = null
  for (let n = 0; n < span.count; n++) {
    last = (await reader.read()) ?? last
    await encoder.write(last!)
  }
  await Promise.all([reader.close(), encoder.finish()])
  return [coded(one), coded(two)]
}

describe('a span that is decoded and encoded by one process', () => {
  it.each(tried)('is the chunk that frames handed over make: %s', async (name) => {
    for (const span of [
      { first: 33, count: 25, step: 1 },
      { first: 7, count: 20, step: 3 },
    ]) {
      const [one, two] = await both(name, span)
      expect(one, JSON.stringify(span)).toBe(two)
    }
  })

  it.each([
    { codec: 'h264', quality: 'best', parameterSet: 3 },
    { codec: 'h264', frame: { width: 200, height: 112, background: 'black' } },
    { codec: 'h265' },
    { codec: 'av1' },
    { codec: 'vp9' },
    { codec: 'prores' },
    { codec: 'h264', quality: 'best', master: true },
  ] as const)('is so in each codec: %o', async (change) => {
    const [one, two] = await both('camera.mp4', { first: 11, count: 30, step: 1 }, encodingOf(change))
    expect(one).toBe(two)
  })

  it('begins with the source’s first frame', async () => {
    const [one, two] = await both('camera.mp4', { first: 0, count: 20, step: 1 })
    expect(one).toBe(two)
  })

  it('begins at a frame that stands by itself without decoding what is before it', async () => {
    const [one, two] = await both('camera.mp4', { first: 30, count: 20, step: 1, key: true })
    expect(one).toBe(two)
  })

  it('holds the last frame where its source ends early', async () => {
    const [one, two] = await both('camera.mp4', { first: FRAMES - 5, count: 12, step: 1 })
    expect(one).toBe(two)
  })

  it('says when there is nothing to decode, and leaves off when it is told to', async () => {
    const { path, metadata } = await source('camera.mp4')
    const out = join(dir, 'nothing.ts')
    const late = { ...metadata, seekable: false }
    await expect(
      transcodeSpan(path, late, { first: FRAMES + 20, count: 5, step: 1, out }, encodingOf()),
    ).rejects.toThrow(NothingDecoded)
    const stop = new AbortController()
    stop.abort(new Error('cancelled'))
    const span = { first: 0, count: 20, step: 1, out: join(dir, 'stopped.ts') }
    await expect(transcodeSpan(path, metadata, span, encodingOf(), { signal: stop.signal })).rejects.toThrow(
      'cancelled',
    )
    expect(existsSync(span.out)).toBe(false)
  })
})
