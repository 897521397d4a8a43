import { join } from 'node:path'
import { expect as patient, test } from '@playwright/test'
import sharp from 'sharp'
import type { CommandInput } from '@dusk/timeline'
import { parts, piece, Studio, type ProjectState } from './tools/api'
import { colourBars, folder, song } from './tools/media'

/** What is done on the page is in the document within seconds. */
const expect = patient.configure({ timeout: 20_000 })

test('tracks are put in order by dragging their heads', async ({ page, baseURL }) => {
  const studio = new Studio(baseURL!)
  const id = await studio.createProject('Heads', 640, 360, { num: 25, den: 1 })
  await page.goto(`/projects/${id}`)
  await page.getByTestId('timeline-body').waitFor()
  const order = async () =>
    Object.values((await studio.call<ProjectState>(`/projects/${id}`)).project.tracks)
      .filter(({ kind }) => kind === 'picture')
      .sort((a, b) => (a.order < b.order ? 1 : -1))
      .map(({ name }) => name)
  const before = await order()
  expect(before.length).toBeGreaterThan(1)
  const names = page
    .getByRole('region', { name: 'Timeline' })
    .locator('[title="Drag the track above or below another"]')
  const [upper, lower] = [(await names.nth(0).boundingBox())!, (await names.nth(1).boundingBox())!]
  await page.mouse.move(upper.x + upper.width / 2, upper.y + upper.height / 2)
  await page.mouse.down()
  await page.mouse.move(lower.x + 20, lower.y + lower.height / 2, { steps: 5 })
  await page.mouse.move(lower.x + 20, lower.y + lower.height - 4, { steps: 5 })
  await page.mouse.up()
  await expect.poll(order).toEqual([before[1], before[0], ...before.slice(2)])
  await page.keyboard.press('Control+z')
  await expect.poll(order).toEqual(before)
})

test('heads of many tracks are reached by the Tab key, and the tracks go along', async ({ page, baseURL }) => {
  const studio = new Studio(baseURL!)
  const id = await studio.createProject('Many heads', 640, 360, { num: 25, den: 1 })
  const asset = await studio.upload(id, song(join(folder(), 'song.wav')))
  const { reelId } = parts(await studio.ready(id, [asset]))
  const trackIds = Array.from({ length: 12 }, () => crypto.randomUUID())
  const last = trackIds.at(-1)!
  await studio.edit(
    id,
    ...trackIds.map((trackId): CommandInput => ({ type: 'addTrack', reelId, trackId, purpose: 'effects' })),
    { type: 'setTrack', trackId: last, set: { name: 'Lowest' } },
    { type: 'place', mode: 'free', pieces: [piece(last, asset, 0, 0, 10)] },
  )
  const asked: string[] = []
  page.on('request', (request) => asked.push(request.url()))
  await page.goto(`/projects/${id}`)
  const timeline = page.getByRole('region', { name: 'Timeline' })
  await timeline.getByRole('button', { name: 'More for Picture 1' }).focus()
  // Fetched with the page's scripts, it is not asked for once more by them.
  expect(asked.filter((url) => url.endsWith(`/api/projects/${id}`))).toHaveLength(1)
  const lowest = timeline.getByRole('button', { name: 'More for Lowest' })
  // Those out of sight are not even there.
  await expect(lowest).toHaveCount(0)
  await expect
    .poll(
      async () => {
        for (let i = 0; i < 10; i++) await page.keyboard.press('Tab')
        return lowest.count()
      },
      { intervals: [50], timeout: 60_000 },
    )
    .toBe(1)
  while (!(await lowest.evaluate((one) => one === document.activeElement))) await page.keyboard.press('Tab')
  const head = (await lowest.boundingBox())!
  const clip = (await timeline.getByRole('button', { name: /on Lowest/ }).boundingBox())!
  const room = (await timeline.boundingBox())!
  expect(head.y + head.height).toBeLessThan(room.y + room.height)
  expect(Math.abs(clip.y + clip.height / 2 - head.y - head.height / 2)).toBeLessThan(4)
  // What has the focus stays, also out of sight.
  await page.mouse.move(clip.x + 40, clip.y + 4)
  await page.mouse.wheel(0, -4000)
  await expect(timeline.getByRole('button', { name: 'More for Picture 1' })).toBeVisible()
  expect(await lowest.evaluate((one) => one === document.activeElement)).toBe(true)
})

test('what is dragged to an edge of the tracks brings those beyond it into sight', async ({ page, baseURL }) => {
  const studio = new Studio(baseURL!)
  const id = await studio.createProject('Beyond the edge', 640, 360, { num: 25, den: 1 })
  const asset = await studio.upload(id, song(join(folder(), 'song.wav')))
  const { reelId } = parts(await studio.ready(id, [asset]))
  const trackIds = Array.from({ length: 12 }, () => crypto.randomUUID())
  await studio.edit(
    id,
    ...trackIds.map((trackId): CommandInput => ({ type: 'addTrack', reelId, trackId, purpose: 'effects' })),
    { type: 'setTrack', trackId: trackIds[0]!, set: { name: 'First' } },
    { type: 'setTrack', trackId: trackIds.at(-1)!, set: { name: 'Lowest' } },
  )
  const read = async () => {
    const { project } = await studio.call<ProjectState>(`/projects/${id}`)
    const sounds = Object.values(project.tracks).filter(({ kind }) => kind !== 'picture')
    return { clips: Object.values(project.clips), order: sounds.sort((a, b) => (a.order < b.order ? -1 : 1)) }
  }
  await page.goto(`/projects/${id}`)
  const timeline = page.getByRole('region', { name: 'Timeline' })
  const body = page.getByTestId('timeline-body')
  const head = (name: string) => timeline.getByRole('button', { name: `More for ${name}`, exact: true })
  await head('Picture 1').waitFor()
  const room = (await body.boundingBox())!
  const inSight = (name: string) => async () => {
    if (!(await head(name).isVisible())) return false
    const { y, height } = (await head(name).boundingBox())!
    return y > room.y && y + height < room.y + room.height
  }
  /** Moves on to a place and rests there, as a hand does: what lies there is entered, and then is under it. */
  const moveTo = async (x: number, y: number) => {
    await page.mouse.move(x, y, { steps: 8 })
    await page.mouse.move(x + 1, y)
    await page.mouse.move(x, y)
  }

  // The wheel turns over the heads as over the tracks.
  await page.mouse.move(room.x - 100, room.y + 60)
  await page.mouse.wheel(0, 4000)
  await expect.poll(inSight('Lowest')).toBe(true)
  await page.mouse.wheel(0, -4000)
  await expect.poll(inSight('Picture 1')).toBe(true)

  // A sound from the library is put on a track that was out of sight.
  const tile = (await page.getByRole('button', { name: /^song.* Press Enter to add it/ }).boundingBox())!
  const bottom = room.y + room.height
  await page.mouse.move(tile.x + tile.width / 2, tile.y + 10)
  await page.mouse.down()
  await moveTo(room.x + 200, room.y + 80)
  await moveTo(room.x + 200, bottom - 3)
  await expect.poll(inSight('Lowest')).toBe(true)
  await moveTo(room.x + 200, bottom - 33)
  await page.mouse.up()
  await expect.poll(async () => (await read()).clips.map(({ trackId }) => trackId)).toEqual([trackIds.at(-1)!])

  // The lowest of them is dragged up until the first is there.
  const before = (await read()).order.map(({ name }) => name)
  const grip = timeline.locator('[title="Drag the track above or below another"]').last()
  const handle = (await grip.boundingBox())!
  await page.mouse.move(handle.x + 4, handle.y + handle.height / 2)
  await page.mouse.down()
  await moveTo(handle.x + 20, room.y + 100)
  await moveTo(handle.x + 20, room.y + 2)
  await expect.poll(inSight('First')).toBe(true)
  // Away from the edge nothing is scrolled any more: what is measured now stays there.
  await moveTo(handle.x + 20, room.y + 100)
  const placeOf = async () => (await head('First').boundingBox())!.y
  await expect.poll(async () => (await placeOf()) - (await page.waitForTimeout(200).then(placeOf))).toBe(0)
  const first = (await head('First').boundingBox())!
  await moveTo(handle.x + 20, first.y - 6)
  await page.mouse.up()
  const others = before.filter((name) => name !== 'Lowest')
  const place = others.indexOf('First')
  await expect
    .poll(async () => (await read()).order.map(({ name }) => name))
    .toEqual([...others.slice(0, place), 'Lowest', ...others.slice(place)])
})

test('a picture that stands is drawn as large as it is looked at, from the original', async ({ page, baseURL }) => {
  const studio = new Studio(baseURL!)
  const dir = folder()
  const id = await studio.createProject('Sharp', 1920, 1080, { num: 25, den: 1 })
  // Lines one pixel wide: grey in a picture half as large.
  const pixels = Buffer.alloc(1920 * 1080 * 3)
  for (let i = 0; i < 1920 * 1080; i++) pixels.fill(i % 2 ? 255 : 0, i * 3, i * 3 + 3)
  const path = join(dir, 'lines.png')
  await sharp(pixels, { raw: { width: 1920, height: 1080, channels: 3 } })
    .png()
    .toFile(path)
  const still = await studio.upload(id, path)
  const { track } = parts(await studio.ready(id, [still]))
  await studio.edit(id, { type: 'place', mode: 'free', pieces: [piece(track('Picture 1'), still, null, 0, 2)] })
  await page.goto(`/projects/${id}`)
  const viewer = page.getByRole('region', { name: 'Viewer' })
  await viewer.locator('canvas').first().waitFor()
  /** How far light and dark lie apart in the middle of the viewer. */
  async function contrast(): Promise<number> {
    const box = (await viewer.locator('canvas').first().boundingBox())!
    const room = (await viewer.boundingBox())!
    const clip = { x: room.x + room.width / 2 - 40, y: Math.max(box.y, room.y) + 80, width: 80, height: 40 }
    const { channels } = await sharp(await page.screenshot({ clip })).stats()
    return channels[0]!.stdev
  }
  await expect.poll(contrast).toBeLessThan(60)
  await page.getByRole('button', { name: /^Size of the picture here/ }).click()
  await page.getByRole('option', { name: '100 %' }).click()
  await expect.poll(contrast).toBeGreaterThan(110)
})

test('the window with the picture alone keeps the reel’s place while a source is watched', async ({
  page,
  baseURL,
  context,
}) => {
  const studio = new Studio(baseURL!)
  const id = await studio.createProject('Apart', 640, 360, { num: 25, den: 1 })
  const bars = await studio.upload(id, colourBars(join(folder(), 'bars.mp4')))
  const { track } = parts(await studio.ready(id, [bars]))
  await studio.edit(id, { type: 'place', mode: 'free', pieces: [piece(track('Picture 1'), bars, null, 0, 2, 1)] })
  await page.goto(`/projects/${id}`)
  const position = page.getByLabel(/^Position\./)
  await position.fill('1s')
  await position.press('Enter')
  const apart = await context.newPage()
  await apart.goto(`/viewer/${id}`)
  await expect(apart.getByText('Waiting for the desk')).toHaveCount(0)
  const light = async () => (await sharp(await apart.screenshot()).stats()).channels.map(({ mean }) => Math.round(mean))
  await expect.poll(async () => Math.max(...(await light()))).toBeGreaterThan(20)
  await apart.waitForTimeout(1500)
  const before = await apart.screenshot()
  await page.bringToFront()
  await page.getByRole('button', { name: /^bars\.mp4, video/ }).dblclick()
  await page.getByTestId('source-strip').waitFor()
  await position.fill('0.2s')
  await position.press('Enter')
  await page.waitForTimeout(1500)
  expect(before.equals(await apart.screenshot())).toBe(true)
  // Back in the reel it follows again, also to where there is nothing.
  await page.getByRole('button', { name: 'Back to the reel' }).click()
  await position.fill('3s')
  await position.press('Enter')
  await expect.poll(async () => Math.max(...(await light()))).toBeLessThan(30)
})
