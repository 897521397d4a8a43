import { execFileSync } from 'node:child_process'
import { rmSync } from 'node:fs'
import { join } from 'node:path'
import { x264Args } from '@dusk/media'
import { benchFolder, shotsRender } from './shots'
import { median, table } from './table'

/** A phone's clip, 4K at 60 frames a second, in a reel of 1080p30: against ffmpeg's own scale and encode. */
const SECONDS = Number(process.env.DUSK_SECONDS ?? 10)
const RUNS = Number(process.env.DUSK_RUNS ?? 3)
const RATE = { num: 30, den: 1 }
const dir = benchFolder()
const source = join(dir, 'phone.mp4')
const words = (text: string) => text.split(' ')
execFileSync('ffmpeg', [
  ...words('-v error -f lavfi -i'),
  `testsrc2=s=3840x2160:r=60,noise=alls=12:allf=t`,
  ...words(`-t ${SECONDS} -c:v libx264 -preset ultrafast -b:v 60M -maxrate 60M -bufsize 60M -g 60 -pix_fmt yuv420p`),
  ...words('-colorspace bt709 -color_range tv'),
  source,
])
const encoding = { width: 1920, height: 1080, rate: RATE, crf: 20, preset: 'veryfast' as const }

function theirs(): number {
  const began = performance.now()
  const filters = ['-vf', 'fps=30,scale=1920:1080']
  execFileSync('ffmpeg', ['-v', 'error', '-y', '-i', source, ...filters, ...x264Args(encoding), join(dir, 'plain.mp4')])
  return performance.now() - began
}

const whole = { start: 0, length: SECONDS * 705_600_000, source: 0 }
const ours = await shotsRender(dir, source, RATE, [whole])

const runs: [number, number][] = []
for (let i = 0; i < RUNS; i++) runs.push([theirs(), await ours(i)])
rmSync(dir, { recursive: true, force: true })
const [plain, render] = [0, 1].map((n) => median(runs.map((row) => row[n]!)) / 1000) as [number, number]
table(
  [`4K60 of 60 Mbit/s in 1080p30, ${SECONDS} s`, 's'],
  [
    ['ffmpeg, fps=30 and scale', plain],
    ['render', render],
    ['render to ffmpeg (1.3 at most)', render / plain],
  ],
)
