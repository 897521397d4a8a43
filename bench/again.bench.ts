import { join } from 'node:path'
import { TICKS_PER_SECOND, type CommandInput } from '@dusk/timeline'
import { parts, piece } from '../e2e/tools/api'
import { measureDesk, testFootage, timedRender } from './desk'

/** How little of a five-minute reel is made again after a small change. */
const RATE = { num: 30, den: 1 }
const size = { width: 1280, height: 720, rate: RATE }

await measureDesk('the second render', 4884, async ({ api, data }, rows) => {
  // Five minutes of shots of five seconds, with a title in each half minute, at 720p.
  const id = await api.createProject('Five minutes', 1920, 1080, RATE)
  const asset = await api.upload(id, testFootage(join(data, 'quay.mp4'), '1920x1080', 30, 60, true))
  const { reelId, track } = parts(await api.ready(id, [asset]))
  const pieces = Array.from({ length: 60 }, (_, i) => {
    const [link, source] = [crypto.randomUUID(), (i * 17) % 55]
    return [
      piece(track('Picture 1'), asset, null, i * 5, 5, source, link),
      piece(track('Voice'), asset, 0, i * 5, 5, source, link),
    ]
  }).flat()
  const titles = Array.from({ length: 10 }, (_, i) => ({
    ...{ kind: 'title', clipId: crypto.randomUUID(), start: (i * 30 + 2) * TICKS_PER_SECOND },
    ...{ length: 3 * TICKS_PER_SECOND, params: {} },
    title: { text: `Evening ${i}`, style: {}, runs: [], in: null, out: null, during: null },
  }))
  const trackId = crypto.randomUUID()
  await api.edit(id, { type: 'place', mode: 'free', pieces }, {
    ...{ type: 'addGenerated', mode: 'free', newTrack: { trackId, reelId } },
    generated: titles.map((title) => ({ ...title, trackId })),
  } as CommandInput)
  const settings = { ...size, quality: 'good', range: null, sound: true }
  /** Seconds that a render takes, and in words how long its stages were. */
  const render = async () => {
    const { took, stages } = await timedRender(api, id, { reelId, name: 'Reel', settings })
    const words = Object.entries(stages).map(([stage, seconds]) => `${stage} ${seconds.toFixed(1)}`)
    console.log(`${took.toFixed(1)} s: ${words.join(', ')}`)
    return took
  }
  const first = await render()
  await api.edit(id, { type: 'setTitle', clipIds: [titles[4]!.clipId], set: { text: 'Lanterns' } })
  const changed = await render()
  await api.edit(id, { type: 'remove', clipIds: [pieces[0]!.clipId, pieces[1]!.clipId], closeUp: true })
  const closed = await render()
  rows.push(
    ['five minutes at 720p, s', first],
    ['… once more after one title’s change (0.04)', changed / first],
    ['… once more after the first shot was closed up (0.03)', closed / first],
  )
})
