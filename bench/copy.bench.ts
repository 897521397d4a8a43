import { execFileSync } from 'node:child_process'
import { rmSync } from 'node:fs'
import { join } from 'node:path'
import { x264Args } from '@dusk/media'
import { frameToTicks } from '@dusk/timeline'
import { benchFolder, shotsRender } from './shots'
import { median, table } from './table'

/** Cuts out of a camera's film whose shots are copied as they are coded, against ffmpeg encoding the same frames. */
const dir = benchFolder()
const RATE = { num: 30, den: 1 }
const SECONDS = 50
const source = join(dir, 'source.mp4')
// A camera of 17 Mbit/s with a picture that stands by itself every second.
const pictures = `testsrc2=s=1920x1080:r=30:d=${SECONDS},noise=alls=6:allf=t`
execFileSync('ffmpeg', [
  ...['-v', 'error', '-f', 'lavfi', '-i', pictures, '-c:v', 'libx264', '-preset', 'veryfast', '-b:v', '17M'],
  ...['-g', '30', '-bf', '2', '-pix_fmt', 'yuv420p', '-colorspace', 'bt709', '-color_range', 'tv', source],
])
const encoding = { width: 1920, height: 1080, rate: RATE, crf: 20, preset: 'veryfast' as const }

/** Frames of six shots, none at a keyframe: where they begin in the film, and how long they are. */
const SHOTS = [
  [833, 310],
  [47, 405],
  [1211, 197],
] as const
const FRAMES = SHOTS.reduce((sum, [, length]) => sum + length, 0)
let at = 0
const shots = SHOTS.map(([from, length]) => {
  const shot = { start: frameToTicks(at, RATE), length: frameToTicks(length, RATE), source: frameToTicks(from, RATE) }
  at += length
  return shot
})
const copied = await shotsRender(dir, source, RATE, shots, { streamCopy: true })
const drawn = await shotsRender(dir, source, RATE, shots)

function cut(): number {
  const inputs = SHOTS.flatMap(([from, length]) => ['-ss', String(from / 30), '-t', String(length / 30), '-i', source])
  const joined = `${SHOTS.map((_, i) => `[${i}:v]`).join('')}concat=n=${SHOTS.length}:v=1[v]`
  const began = performance.now()
  const args = ['-filter_complex', joined, '-map', '[v]', ...x264Args(encoding), join(dir, 'cut.mp4')]
  execFileSync('ffmpeg', ['-v', 'error', '-y', ...inputs, ...args])
  return performance.now() - began
}

const runs: [number, number, number][] = []
for (let i = 0; i < 3; i++) runs.push([cut(), await copied(2 * i), await drawn(2 * i + 1)])
rmSync(dir, { recursive: true, force: true })
const [byFfmpeg, copying, drawing] = [0, 1, 2].map((n) => median(runs.map((row) => row[n]!)) / 1000)
table(
  [`${SHOTS.length} shots, 1920 × 1080, ${FRAMES} frames`, 's'],
  [
    ['ffmpeg decoding and encoding the same cuts', byFfmpeg!],
    ['render that copies what nothing was done to', copying!],
    ['render that encodes all', drawing!],
    ['copying to ffmpeg encoding (0.2)', copying! / byFfmpeg!],
    ['encoding all to ffmpeg encoding (1.1)', drawing! / byFfmpeg!],
  ],
)
