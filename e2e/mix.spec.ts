import { join } from 'node:path'
import { expect as patient, test, type Locator, type Page } from '@playwright/test'
import { parts, piece, SECOND, Studio, type ProjectState } from './tools/api'
import { flashAndBeep, folder } from './tools/media'

/** What is done on the page is in the document within seconds. */
const expect = patient.configure({ timeout: 20_000 })

interface Key {
  at: number
  value: number
}
interface Clip {
  id: string
  stream: number | null
  start: number
  length: number
  gain: number
  map: { kind: string; speed?: number; points?: unknown[] }
  params: { level?: { keys: Key[] } }
}
type Project = ProjectState['project'] & {
  clips: Record<string, Clip>
  transitions: Record<string, { rightId: string | null; leftId: string | null; after: number }>
  effects: Record<string, { owner: string; ownerId: string; kind: string; settings: Record<string, unknown> }>
  tracks: Record<string, { name: string; gain: number; params: Record<string, unknown> }>
}

/** A pair of picture and sound of six seconds, opened on the page. */
async function pairOnDesk(page: Page, baseURL: string, height = 120) {
  const studio = new Studio(baseURL)
  const id = await studio.createProject('Mix', 640, 360, { num: 30, den: 1 })
  const source = await studio.upload(id, flashAndBeep(join(folder(), 'beeps.mp4')))
  const { reelId, track } = parts(await studio.ready(id, [source]))
  const link = crypto.randomUUID()
  const [picture, sound] = [
    piece(track('Picture 1'), source, null, 0, 6, 0, link),
    piece(track('Voice'), source, 0, 0, 6, 0, link),
  ]
  await studio.edit(
    id,
    { type: 'place', mode: 'free', pieces: [picture, sound] },
    { type: 'setTrack', trackId: track('Voice'), set: { height } },
  )
  const read = async () => (await studio.call<{ project: Project }>(`/projects/${id}`)).project
  await page.goto(`/projects/${id}`)
  await page.waitForFunction(
    () => Number(document.querySelector('[data-shown-tick]')?.getAttribute('data-shown-tick') ?? -1) >= 0,
  )
  const clipOn = (name: string) => page.locator(`[data-clip][aria-label*=" on ${name}"]`).first()
  return { studio, id, reelId, track, picture, sound, read, clipOn }
}

/** A drag as a hand makes it: pressed in the middle, moved in steps, let go. */
async function drag(page: Page, handle: Locator, dx: number, dy: number): Promise<void> {
  const box = (await handle.boundingBox())!
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2]
  await page.mouse.move(x, y)
  await page.mouse.down()
  for (let i = 1; i <= 6; i++) await page.mouse.move(x + (dx * i) / 6, y + (dy * i) / 6)
  await page.mouse.up()
}

test('level lines, gain and fades are set on the clip by hand', async ({ page, baseURL }) => {
  const { sound, read, clipOn } = await pairOnDesk(page, baseURL!)
  const clip = async () => (await read()).clips[sound.clipId]!
  await clipOn('Voice').click({ position: { x: 40, y: 6 } })
  const line = page.locator(`[data-level="${sound.clipId}"]`)
  const box = (await line.boundingBox())!
  const at = (part: number) => [box.x + box.width * part, box.y + box.height / 2] as const

  await page.mouse.dblclick(...at(0.25))
  await page.mouse.dblclick(...at(0.5))
  const points = page.locator(`[data-level-point="${sound.clipId}"]`)
  await expect(points).toHaveCount(2)
  await drag(page, points.nth(1), 40, 30)
  await expect(async () => {
    const { keys } = (await clip()).params.level!
    expect(keys[0]!.value).toBe(0)
    expect(keys[1]!.value).toBeLessThan(-8)
    expect(keys[1]!.at / SECOND).toBeGreaterThan(3)
  }).toPass()

  // The whole line goes up, and both points with it.
  const before = (await clip()).params.level!.keys.map(({ value }) => value)
  await page.mouse.move(box.x + 12, box.y + box.height / 2)
  await page.mouse.down()
  await page.mouse.move(box.x + 12, box.y + box.height / 2 - 6, { steps: 3 })
  await page.mouse.up()
  await expect(async () => {
    const after = (await clip()).params.level!.keys.map(({ value }) => value)
    expect(after[0]).toBeGreaterThan(before[0]!)
    expect(after[1]! - after[0]!).toBeCloseTo(before[1]! - before[0]!, 1)
  }).toPass()

  // A point that is focused goes by the key, and the clip stays.
  await points.nth(0).focus()
  await page.keyboard.press('Delete')
  await expect(points).toHaveCount(1)
  expect(await clip()).toBeTruthy()

  await drag(page, page.locator(`[data-gain="${sound.clipId}"]`), 0, -40)
  await expect.poll(async () => (await clip()).gain).toBe(10)

  await drag(page, page.locator('[data-fade="start"]').first(), 100, 0)
  await expect
    .poll(async () => Object.values((await read()).transitions).find(({ rightId }) => rightId === sound.clipId)?.after)
    .toBeGreaterThan(SECOND / 4)

  for (let i = 0; i < 7; i++) await page.locator('body').press('Control+z')
  await expect.poll(async () => (await clip()).params.level).toBeUndefined()
  expect((await clip()).gain).toBe(0)

  // At the clip's edge it is the edge that is taken hold of, not the line that ends before it. (The box holds half of
  // the line's thickness at its ends, too.)
  const flat = (await line.boundingBox())!
  const [x, y] = [flat.x + flat.width - 1, flat.y + flat.height / 2]
  await page.mouse.move(x, y)
  await page.mouse.down()
  await page.mouse.move(x - 60, y + 9, { steps: 6 })
  await page.mouse.up()
  await expect.poll(async () => (await clip()).length / SECOND).toBeLessThan(5.9)
  expect((await clip()).params.level).toBeUndefined()
})

test('effects go on clip, track and reel; what is measured on the desk is what is rendered', async ({
  page,
  baseURL,
}) => {
  const { studio, id, reelId, track, sound, read, clipOn } = await pairOnDesk(page, baseURL!)
  const effects = async () => Object.values((await read()).effects).map(({ owner, kind }) => `${owner} ${kind}`)
  await clipOn('Voice').click({ position: { x: 40, y: 6 } })
  const speed = page.getByLabel('Speed, in %')
  await speed.fill('130')
  await speed.press('Enter')
  await expect.poll(async () => (await read()).clips[sound.clipId]!.map.speed).toBe(1.3)

  await page.getByRole('navigation', { name: 'Drawers' }).getByRole('button', { name: 'Sound' }).click()
  const drawer = page.getByRole('region', { name: 'Sound', exact: true })
  /** Puts an effect on by its tile, once the drawer says that it goes where it should. */
  const put = async (name: string, where: RegExp, made: string) => {
    await expect(drawer).toContainText(where)
    const tile = drawer.getByRole('button', { name, exact: true })
    // The filters fold once the drawer is scrolled: what lies beneath moves up meanwhile.
    await tile.scrollIntoViewIfNeeded()
    await tile.click()
    await expect.poll(effects).toContain(made)
  }
  await put('Clear voice', /Goes on/, 'clip equaliser')
  await page.getByRole('button', { name: 'Mixer' }).click()
  await page.getByRole('button', { name: 'Effects of Voice' }).click()
  await put('Boathouse', /Goes on .*Voice/, 'track reverb')
  await put('Even voice', /Goes on .*Voice/, 'track compressor')
  await page.getByRole('button', { name: 'Effects of the reel' }).click()
  await put('Safe for upload', /Goes on .*reel/, 'reel limiter')
  await expect
    .poll(async () => (await effects()).sort())
    .toEqual(['clip equaliser', 'reel limiter', 'track compressor', 'track reverb'])

  // A point of the curve, by hand.
  await clipOn('Voice').click({ position: { x: 40, y: 6 } })
  await page.getByRole('button', { name: 'Equaliser', exact: true }).click()
  await drag(page, page.getByRole('button', { name: /^Band 3:/ }), 0, -20)
  await expect
    .poll(async () => Object.values((await read()).effects).find(({ kind }) => kind === 'equaliser')?.settings.gain3)
    .toBeGreaterThan(2)
  await page.getByLabel('Gain of Voice').fill('-3')
  await page.getByLabel('Pan of Voice').fill('40')
  await expect.poll(async () => (await read()).tracks[track('Voice')]).toMatchObject({ gain: -3, params: { pan: 40 } })

  // It plays, and the meters say so.
  await page.locator('body').press('Home')
  await page.locator('body').press('Space')
  const meter = page.getByRole('meter', { name: 'Level of Voice' })
  await expect.poll(async () => Number(await meter.getAttribute('aria-valuenow'))).toBeGreaterThan(-50)
  await page.locator('body').press('Space')

  const mixer = page.getByTestId('reel-mixer')
  await mixer.getByRole('button', { name: 'Measure' }).click()
  await expect(mixer).toHaveAttribute('data-integrated', /^-?\d/)
  const integrated = Number(await mixer.getAttribute('data-integrated'))
  const settings = {
    width: 640,
    height: 360,
    rate: { num: 30, den: 1 },
    quality: 'draft',
    range: null,
    sound: true,
  }
  const { report } = await studio.render(id, reelId, 'mix', settings)
  const { loudness, peak } = report!
  // The same samples: loudness is the same to a thousandth, and so is the true peak.
  expect(loudness).toBeCloseTo(integrated, 3)
  expect(20 * Math.log10(peak)).toBeCloseTo(Number(await mixer.getAttribute('data-true-peak')), 3)
})

test('speed is stretched by an edge, turned round by a key, and bent along a curve', async ({ page, baseURL }) => {
  const { picture, sound, read, clipOn } = await pairOnDesk(page, baseURL!, 44)
  const both = async () => {
    const { clips } = await read()
    return [clips[picture.clipId]!, clips[sound.clipId]!] as const
  }
  await clipOn('Picture 1').click({ position: { x: 60, y: 30 } })
  await page.locator('body').press('6')
  const box = (await clipOn('Picture 1').boundingBox())!
  await page.mouse.move(box.x + box.width - 3, box.y + 20)
  await page.mouse.down()
  await page.mouse.move(box.x + box.width * 0.5, box.y + 20, { steps: 8 })
  await page.mouse.up()
  await expect(async () => {
    const [shot, voice] = await both()
    expect(shot.length / SECOND).toBeLessThan(3.4)
    expect(shot.map.speed).toBeGreaterThan(1.7)
    expect(voice.map.speed).toBe(shot.map.speed)
  }).toPass()

  await page.locator('body').press('Control+z')
  await expect.poll(async () => (await both())[0].map.speed).toBe(1)
  await page.locator('body').press('1')
  await page.locator('body').press('Alt+r')
  await expect.poll(async () => (await both()).map(({ map }) => map.speed)).toEqual([-1, -1])
  await page.locator('body').press('Alt+r')

  await page.getByRole('button', { name: 'Slingshot' }).click()
  await expect.poll(async () => (await both())[0].map.points?.length).toBe(3)
  const length = (await both())[0].length
  await drag(page, page.getByRole('button', { name: /^Point 3 of the speed curve/ }), 0, 15)
  // Slower at its end, it lasts longer.
  await expect.poll(async () => (await both())[0].length).toBeGreaterThan(length)
  await page.getByRole('button', { name: 'One speed for all of it' }).click()
  await expect.poll(async () => (await both())[0].map.kind).toBe('constant')
})
