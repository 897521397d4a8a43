import { execFileSync } from 'node:child_process'
import { rmSync } from 'node:fs'
import { join } from 'node:path'
import { setTimeout as wait } from 'node:timers/promises'
import { parts, piece } from '../e2e/tools/api'
import { measureDesk, testFootage, timedRender } from './desk'
import { median } from './table'

/** A render of which drawing is the larger part, on one processor and on two, and by one worker and by two. */
const RUNS = Number(process.env.DUSK_RUNS ?? 3)
const RATE = { num: 30, den: 1 }
const HD = { width: 1920, height: 1080, rate: RATE }
/** Milliseconds that a worker takes to be ready for work. */
const STARTING = 8000

await measureDesk('processors and workers', 4883, async ({ api, data, workerPid, addWorker }, rows) => {
  const id = await api.createProject('Drawn', 1920, 1080, RATE)
  const asset = await api.upload(id, testFootage(join(data, 'quay.mp4'), '1920x1080', 30, 30))
  const { reelId, track } = parts(await api.ready(id, [asset]))
  const pieces = Array.from({ length: 6 }, (_, i) => piece(track('Picture 1'), asset, null, i * 4, 4, (i * 17) % 25))
  await api.edit(
    id,
    { type: 'place', mode: 'free', pieces },
    {
      ...{ type: 'addEffects', owner: 'clip', ownerIds: pieces.map(({ clipId }) => clipId) },
      effects: [
        { domain: 'picture', kind: 'tone', settings: { exposure: 0.3, contrast: 15 }, strength: 100 },
        { domain: 'picture', kind: 'blur', settings: { radius: 12 }, strength: 100 },
      ],
    },
  )

  /** Seconds that a render takes of which nothing is there. */
  async function render(): Promise<number> {
    rmSync(join(data, 'media/chunks'), { recursive: true, force: true })
    const settings = { ...HD, quality: 'draft', range: null, sound: false }
    return (await timedRender(api, id, { reelId, name: 'Drawn', settings })).took
  }
  /** Lets the worker, and what it starts from now on, run on these processors alone. */
  const pin = (processors: string) => execFileSync('taskset', ['-acp', processors, String(workerPid)])

  await render()
  const took: Record<'one' | 'both' | 'shared', number[]> = { one: [], both: [], shared: [] }
  for (let run = 0; run < RUNS; run++) {
    pin('0')
    took.one.push(await render())
    pin('0,1')
    took.both.push(await render())
    const endOther = addWorker()
    await wait(STARTING)
    took.shared.push(await render())
    await endOther()
  }
  const [one, both, shared] = [median(took.one), median(took.both), median(took.shared)]
  rows.push(
    ['one worker on one processor, s', one],
    ['… on two, s', both],
    ['two processors to one, times as fast (1.7 at least)', one / both],
    ['two workers to one, on two processors (1.0 at most)', shared / both],
  )
})
