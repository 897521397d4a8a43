import { execFileSync } from 'node:child_process'
import { rmSync } from 'node:fs'
import { join } from 'node:path'
import { x264Args } from '@dusk/media'
import { frameToTicks } from '@dusk/timeline'
import { benchFolder, shotsRender } from './shots'
import { median, table } from './table'

/** A cuts-only reel against ffmpeg alone decoding and encoding the same frames with the same settings. */
const dir = benchFolder()
const RATE = { num: 30, den: 1 }
const FRAMES = 240
/** Eight shots, in another order than they were filmed. */
const ORDER = [3, 0, 6, 1, 7, 4, 2, 5]
const SHOTS = ORDER.length
const source = join(dir, 'source.mp4')
execFileSync('ffmpeg', [
  '-v',
  'error',
  '-f',
  'lavfi',
  '-i',
  `testsrc2=s=1920x1080:r=30,noise=alls=3:allf=t`,
  '-frames:v',
  String(FRAMES),
  '-c:v',
  'libx264',
  '-preset',
  'veryfast',
  '-crf',
  '18',
  '-pix_fmt',
  'yuv420p',
  '-colorspace',
  'bt709',
  '-color_range',
  'tv',
  source,
])
const encoding = { width: 1920, height: 1080, rate: RATE, crf: 20, preset: 'veryfast' as const }

function plain(): number {
  const began = performance.now()
  execFileSync('ffmpeg', ['-v', 'error', '-y', '-i', source, ...x264Args(encoding), join(dir, 'plain.mp4')])
  return performance.now() - began
}

/** The same cuts by ffmpeg alone: each shot sought, decoded from the keyframe before it, and joined. */
function cut(): number {
  const inputs = ORDER.flatMap((n) => [
    '-ss',
    String((n * FRAMES) / SHOTS / 30),
    '-t',
    String(FRAMES / SHOTS / 30),
    '-i',
    source,
  ])
  const joined = `${ORDER.map((_, i) => `[${i}:v]`).join('')}concat=n=${SHOTS}:v=1[v]`
  const began = performance.now()
  execFileSync('ffmpeg', [
    '-v',
    'error',
    '-y',
    ...inputs,
    '-filter_complex',
    joined,
    '-map',
    '[v]',
    ...x264Args(encoding),
    join(dir, 'cut.mp4'),
  ])
  return performance.now() - began
}

const shot = frameToTicks(FRAMES / SHOTS, RATE)
const shots = ORDER.map((n, i) => ({ start: i * shot, length: shot, source: n * shot }))
const ours = await shotsRender(dir, source, RATE, shots)

const runs: [number, number, number][] = []
for (let i = 0; i < 3; i++) runs.push([plain(), cut(), await ours(i)])
rmSync(dir, { recursive: true, force: true })
const [whole, cuts, render] = [0, 1, 2].map((n) => median(runs.map((row) => row[n]!)) / 1000) as [
  number,
  number,
  number,
]
table(
  ['cuts only, 1920 × 1080, 240 frames', 's'],
  [
    ['ffmpeg alone, the file as it is', whole],
    ['ffmpeg alone, the same cuts', cuts],
    ['render', render],
    ['render to the same cuts by ffmpeg (1.3 at most)', render / cuts],
    ['render to the file as it is', render / whole],
  ],
)
