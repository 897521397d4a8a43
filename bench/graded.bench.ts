import { join } from 'node:path'
import { parts, piece } from '../e2e/tools/api'
import { measureDesk, pictureShown, testFootage } from './desk'
import { median } from './table'

/** Two layers of picture with a grade of four steps, a blur with a mask, and a title, played on the page. */
const SECONDS = 20

await measureDesk('graded pictures played on the page', 4879, async ({ api, page, origin, data }, rows) => {
  const footage = testFootage(join(data, 'footage.mp4'), '1280x720', 30, 60)
  const id = await api.createProject('Graded', 1920, 1080, { num: 30, den: 1 })
  const video = await api.upload(id, footage)
  const { reelId, track } = parts(await api.ready(id, [video]))
  const front = crypto.randomUUID()
  const titles = crypto.randomUUID()
  const effect = (kind: string, settings: object = {}, more: object = {}) => ({
    ...{ domain: 'picture' as const, kind, settings, strength: 100 },
    ...more,
  })
  const grade = [
    effect('tone', { exposure: 0.3, contrast: 15 }),
    effect('balance', { temperature: 20 }),
    effect('wheels', { shadowsTint: [20, -20] }),
    effect('curves', { luma: '0,0 0.25,0.2 0.75,0.82 1,1' }),
  ]
  const ellipse = { id: crypto.randomUUID(), kind: 'ellipse', mode: 'add', settings: { outer: 60, invert: true } }
  const [back, top] = [piece(track('Picture 1'), video, null, 0, 50), piece(front, video, null, 0, 50, 5)]
  const title = { text: 'Lantern Night', style: {}, runs: [], in: null, out: null, during: null }
  await api.edit(
    id,
    { type: 'addTrack', reelId, trackId: front, purpose: 'picture' },
    { type: 'addTrack', reelId, trackId: titles, purpose: 'titles' },
    { type: 'place', mode: 'free', pieces: [back, top] },
    { type: 'setTrackParams', trackId: front, set: { size: 40, position: [500, -250] } },
    {
      ...{ type: 'addGenerated', mode: 'free' },
      generated: [
        {
          ...{ kind: 'title', title, params: {} },
          clipId: crypto.randomUUID(),
          trackId: titles,
          start: 0,
          length: 35_280_000_000,
        },
      ],
    },
  )
  const play = async () => {
    await page.goto('about:blank')
    await page.goto(`${origin}/projects/${id}`)
    await pictureShown(page)
    await page.keyboard.press('Home')
    await page.keyboard.press('l')
    await page.waitForTimeout(SECONDS * 1000)
    const shown = Number(await page.getByLabel('Viewer', { exact: true }).getAttribute('data-frames-shown'))
    await page.keyboard.press('k')
    return shown / SECONDS
  }
  const bare = [await play(), await play(), await play()]
  rows.push(['two layers and a title without effects, frames shown a second', median(bare)])
  await api.edit(
    id,
    { type: 'addEffects', owner: 'clip', ownerIds: [back.clipId, top.clipId], effects: grade },
    {
      ...{ type: 'addEffects', owner: 'clip', ownerIds: [back.clipId] },
      effects: [effect('blur', { radius: 20 }, { mask: { shapes: [ellipse] } })],
    },
  )
  const graded = [await play(), await play(), await play()]
  rows.push(['… with a grade on each and a masked blur (24 at least)', median(graded)])
  const scopes = page.getByRole('complementary', { name: 'Scopes' })
  const counts = async () => Number(await scopes.getAttribute('data-counted'))
  const counted: number[] = []
  await page.keyboard.press('Shift+Y')
  for (let i = 0; i < 3; i++) {
    await page.keyboard.press('Home')
    await page.keyboard.press('l')
    await page.waitForTimeout(1000)
    const before = await counts()
    await page.waitForTimeout(8000)
    counted.push(((await counts()) - before) / 8)
    await page.keyboard.press('k')
  }
  rows.push(['scopes counted a second beside it (12 at least)', median(counted)])
})
