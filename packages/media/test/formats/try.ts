import { execFileSync } from 'node:child_process'
import { existsSync, renameSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import {
  assetFacts,
  frameCount,
  frameStart,
  TICKS_PER_SECOND,
  type AssetFacts,
  type SourceMetadata,
} from '@dusk/timeline'
import {
  convertAnimatedWebp,
  examine,
  FrameReader,
  i420Size,
  isAnimatedWebp,
  makeProxy,
  makeSound,
  seekSamples,
  seeksExactly,
} from '../../src/index'
import type { Format } from './list'
import type { Refused } from './more'

/** Pictures a second of the numbered footage. */
const RATE = 25
const [WIDTH, HEIGHT] = [320, 180]

/** Two seconds of pictures as raw planes: eight bars say the number of each in binary, the lowest digit at the left. */
function numberedPlanes(): Uint8Array {
  const planes = new Uint8Array(2 * RATE * i420Size(WIDTH, HEIGHT)).fill(128)
  for (let n = 0; n < 2 * RATE; n++) {
    const luma = planes.subarray(n * i420Size(WIDTH, HEIGHT)).subarray(0, WIDTH * HEIGHT)
    luma.forEach((_, i) => (luma[i] = (n >> Math.floor(((i % WIDTH) * 8) / WIDTH)) & 1 ? 200 : 50))
  }
  return planes
}

const TONES = ['-f', 'lavfi', '-i', 'aevalsrc=sin(440*2*PI*t)|sin(550*2*PI*t):d=2:s=48000']
const NOISE = ['-f', 'lavfi', '-i', 'anoisesrc=d=2:r=48000,pan=5.1|c0=c0|c1=c0|c2=c0|c3=c0|c4=c0|c5=c0']
const STILL = ['-f', 'lavfi', '-i', `testsrc2=s=${WIDTH}x${HEIGHT}:r=1:d=1`]

/** Arguments of ffmpeg for what goes into a file. */
function inputsOf(input: Format['input'], dir: string): string[] {
  if (input === 'still') return STILL
  if (input === 'sound') return TONES
  const path = join(dir, 'numbered.yuv')
  if (!existsSync(path)) writeFileSync(path, numberedPlanes())
  const picture = `-f rawvideo -pix_fmt yuv420p -s ${WIDTH}x${HEIGHT} -r ${RATE} -i`.split(' ').concat(path)
  return [...picture, ...(input === 'picture' ? [] : input === 'both' ? TONES : NOISE)]
}

/** What became of a file: how it is described, and what the person is told. */
export interface Tried {
  asset: AssetFacts
  metadata: SourceMetadata
  /** Samples of its first sound, after it was decoded to the end. */
  samples: number
  /**
   * Frames read by seeking, each with the number drawn in it, the one drawn in it when all are read in order, and the
   * one that was made for its time.
   */
  frames: { frame: number; sought: number; wanted: number; due: number }[]
}

/**
 * Makes a file of a format, reads it in as an upload is, makes everything that previewing needs, and reads single
 * frames as a render does.
 */
export async function tryFormat(format: Format, dir: string): Promise<Tried> {
  const made = join(dir, format.name)
  execFileSync('ffmpeg', ['-v', 'error', '-y', ...inputsOf(format.input, dir), ...format.args.split(' '), made])
  // As uploads lie on disk: nothing is known but the bytes.
  const path = join(dir, format.name.replaceAll('.', '-'))
  renameSync(made, path)
  if (await isAnimatedWebp(path)) {
    await convertAnimatedWebp(path, `${path}.mkv`)
    renameSync(`${path}.mkv`, path)
  }
  const metadata = await examine(path, statSync(path).size)
  const frames: Tried['frames'] = []
  if (metadata.kind === 'video') {
    const sampled = metadata.seekable ? seekSamples(metadata) : []
    const proxy = await makeProxy(path, metadata, `${path}.proxy.mp4`, { sampled })
    if (!(await seeksExactly(path, metadata, proxy.hashes))) metadata.seekable = false
    const inOrder = await drawnNumbers(path, metadata, 0, Infinity)
    const count = frameCount(metadata.table!)
    if (inOrder.length !== count) throw new Error(`${format.name}: ${inOrder.length} frames, ${count} in its table`)
    for (const frame of soughtFrames(count)) {
      const [sought] = await drawnNumbers(path, metadata, frame, 1)
      frames.push({ frame, sought: sought ?? -1, wanted: inOrder[frame]!, due: due(metadata, frame) })
    }
  }
  const asset = assetFacts('00000000-0000-4000-8000-000000000001', format.name, metadata)
  const samples = asset.sounds.length > 0 ? await makeSound(path, metadata, 0, `${path}.sound`, `${path}.wave`) : 0
  return { asset, metadata, samples, frames }
}

/** Frames that are sought, each by a process of its own: the ends, a group of pictures' first, and some between. */
function soughtFrames(count: number): number[] {
  const some = [0, 2, 12, 21, 33, count - 1]
  return (process.env.DUSK_LONG ? [...some, 1, 7, 20, 34, count - 2] : some).filter((frame) => frame < count)
}

/** Makes a file of a kind that is not read. @returns what a person is told of it */
export async function tryRefused({ name, args, bytes }: Refused, dir: string): Promise<string> {
  const path = join(dir, `refused-${name.replaceAll('.', '-')}`)
  if (bytes !== undefined) writeFileSync(path, bytes.padEnd(600, '\0'), 'latin1')
  else {
    const made = join(dir, `refused-${name}`)
    const how = args ? args.split(' ') : []
    execFileSync('ffmpeg', ['-v', 'error', '-y', ...STILL, '-frames:v', '1', ...how, made])
    renameSync(made, path)
  }
  return examine(path, statSync(path).size).then(
    () => 'It was taken in.',
    (error: Error) => error.message,
  )
}

/** Number of the picture that was made for the time at which a frame is shown. */
function due(metadata: SourceMetadata, frame: number): number {
  return Math.round((frameStart(metadata.table!, frame) / TICKS_PER_SECOND) * RATE)
}

/** The numbers drawn in frames from one that is sought on. */
async function drawnNumbers(path: string, metadata: SourceMetadata, first: number, most: number): Promise<number[]> {
  const [width, height] = [metadata.width!, metadata.height!]
  const reader = new FrameReader(path, metadata, first)
  const planes = new Uint8Array(i420Size(width, height))
  const numbers: number[] = []
  while (numbers.length < most && (await reader.readInto(planes))) {
    let number = 0
    for (let bar = 0; bar < 8; bar++)
      if (planes[(height >> 1) * width + Math.floor(((bar + 0.5) * width) / 8)]! > 118) number += 2 ** bar
    numbers.push(number)
  }
  await reader.close()
  return numbers
}
