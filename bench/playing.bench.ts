import { join } from 'node:path'
import { execFileSync } from 'node:child_process'
import type { CommandInput } from '@dusk/timeline'
import { parts, piece } from '../e2e/tools/api'
import { measureDesk, pictureShown, testFootage } from './desk'

/** Ten sound tracks with effects and two layers of picture played on the page: how often the sound runs dry. */
const MINUTES = Number(process.env.DUSK_BENCH_MINUTES ?? 10)
const SECONDS = MINUTES * 60

await measureDesk('a mix played on the page', 4877, async ({ api, page, origin, data }, rows) => {
  const footage = testFootage(join(data, 'footage.mp4'), '1280x720', 30, 60)
  const song = join(data, 'song.wav')
  const noise = 'anoisesrc=c=pink:a=0.2:r=48000,aformat=channel_layouts=stereo'
  execFileSync('ffmpeg', ['-v', 'error', '-y', '-f', 'lavfi', '-i', noise, '-t', String(SECONDS + 30), song])
  const id = await api.createProject('A busy mix', 1920, 1080, { num: 30, den: 1 })
  const [video, sound] = [await api.upload(id, footage), await api.upload(id, song)]
  const { reelId, track } = parts(await api.ready(id, [video, sound]))
  const trackIds = Array.from({ length: 10 }, () => crypto.randomUUID())
  const front = crypto.randomUUID()
  const bands = { gain1: 3, gain2: -4, gain4: 2, gain5: 3 }
  const effect = (kind: string, settings: object) => ({ domain: 'sound' as const, kind, settings, strength: 100 })
  const shots = Array.from({ length: Math.ceil(SECONDS / 50) }, (_, n) => n * 50)
  await api.edit(
    id,
    ...trackIds.map((trackId): CommandInput => ({ type: 'addTrack', reelId, trackId, purpose: 'music' })),
    { type: 'addTrack', reelId, trackId: front, purpose: 'picture' },
    {
      type: 'place',
      mode: 'free',
      pieces: trackIds.flatMap((trackId, n) =>
        [0, 1].map((half) => piece(trackId, sound, 0, (half * SECONDS) / 2, SECONDS / 2, n / 2 + half)),
      ),
    },
    {
      type: 'place',
      mode: 'free',
      pieces: shots.flatMap((at) => [
        piece(track('Picture 1'), video, null, at, 50, 0),
        piece(front, video, null, at, 50, 5),
      ]),
    },
    { type: 'setTrackParams', trackId: front, set: { size: 40, position: [500, -250] } },
    {
      type: 'addEffects',
      owner: 'track',
      ownerIds: trackIds,
      effects: [effect('equaliser', bands), effect('compressor', { threshold: -24 })],
    },
    { type: 'addEffects', owner: 'reel', ownerIds: [reelId], effects: [effect('limiter', {})] },
  )
  await page.goto(`${origin}/projects/${id}`)
  await pictureShown(page)
  await page.keyboard.press('Home')
  await page.keyboard.press('l')
  await page.waitForTimeout((SECONDS - 5) * 1000)
  const viewer = page.getByLabel('Viewer', { exact: true })
  const read = async (name: string) => Number(await viewer.getAttribute(`data-${name}`))
  rows.push([
    `20 clips on 10 tracks with effects, two pictures, ${MINUTES} minutes: times the sound ran dry`,
    await read('underruns'),
  ])
  rows.push(['… frames shown a second', (await read('frames-shown')) / (SECONDS - 5)])
  await page.keyboard.press('k')
})
