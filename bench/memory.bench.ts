import { readdirSync, readFileSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { longFootage } from './footage'
import { benchFolder, shotsRender } from './shots'
import { table } from './table'

/** What a render takes of memory, with all the programs that it runs, and whether that grows with its length. */
const MINUTES = Number(process.env.DUSK_MINUTES ?? 30)
const RATE = { num: 30, den: 1 }
const dir = benchFolder()

/**
 * Megabytes that a process and all that it has started have in memory. Pages that several have, as those of ffmpeg's
 * libraries, count once in all (proportional set size, Linux's Documentation/filesystems/proc.rst).
 */
function residentMB(pid: number): number {
  try {
    const own = Number(/^Pss:\s+(\d+)/m.exec(readFileSync(`/proc/${pid}/smaps_rollup`, 'utf8'))?.[1] ?? 0) / 1024
    const begun = readdirSync(`/proc/${pid}/task`).flatMap((task) =>
      readFileSync(`/proc/${pid}/task/${task}/children`, 'utf8').split(' ').filter(Boolean).map(Number),
    )
    return own + begun.reduce((sum, child) => sum + residentMB(child), 0)
  } catch {
    // It has ended meanwhile.
    return 0
  }
}

/** Most that was taken in each tenth of a piece of work, in megabytes. */
async function watched(work: () => Promise<unknown>): Promise<number[]> {
  const seen: number[] = []
  const looking = setInterval(() => seen.push(residentMB(process.pid)), 500)
  await work()
  clearInterval(looking)
  const tenth = Math.ceil(seen.length / 10)
  return Array.from({ length: 10 }, (_, i) => Math.max(0, ...seen.slice(i * tenth, (i + 1) * tenth)))
}

for (const [name, size, minutes, limit, bits] of [
  ['1080p', { width: 1920, height: 1080 }, MINUTES, 1.2, '12M'],
  ['4K', { width: 3840, height: 2160 }, MINUTES / 6, 3, '45M'],
] as const) {
  const codec = [
    ...'-c:v libx264 -preset ultrafast -pix_fmt yuv420p -colorspace bt709 -color_range tv -g 60'.split(' '),
    ...['-b:v', bits, '-maxrate', bits, '-bufsize', bits],
  ]
  const source = longFootage(join(dir, `${name}.mp4`), `${size.width}x${size.height}`, 30, codec, minutes * 60)
  const SHOT = 7 * 705_600_000
  const shots = Array.from({ length: Math.floor((minutes * 60) / 7) - 1 }, (_, i) => ({
    ...{ start: i * SHOT, length: SHOT, source: ((i * 37) % Math.floor((minutes * 60) / 7 - 1)) * SHOT },
  }))
  // Every third shot is drawn, the others are encoded as they are decoded.
  const change = { ...size, quality: 'draft', speed: 'quick' } as const
  const render = await shotsRender(dir, source, RATE, shots, change, (n) => n % 3 === 0)
  const tenths = await watched(() => render(minutes))
  table(
    ['memory of a render, its decoders and encoders with it', ''],
    [
      [`${name}, ${minutes} minutes: most of memory, GB (${limit})`, Math.max(...tenths) / 1024],
      ['… most in each tenth, MB', tenths.map((one) => one.toFixed(0)).join(', ')],
    ],
  )
  rmSync(source)
}
rmSync(dir, { recursive: true, force: true })
