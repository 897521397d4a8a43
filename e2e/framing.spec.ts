import { join } from 'node:path'
import { expect as patient, test, type Page } from '@playwright/test'
import { parts, piece, SECOND, Studio, type ProjectState } from './tools/api'
import { colourBars, flashAndBeep, folder } from './tools/media'

/** What is done on the page is in the document within seconds. */
const expect = patient.configure({ timeout: 20_000 })

interface Clip {
  id: string
  kind: string
  trackId: string
  assetId?: string
  generator?: string
  start: number
  length: number
  title?: { text: string; style: Record<string, unknown> }
  params: Record<string, number | number[] | { keys: { at: number; value: number | number[] }[] }>
}
type Project = ProjectState['project'] & {
  clips: Record<string, Clip>
  tracks: Record<string, { params: Record<string, number> }>
}

/** A project with two shots one after the other, open in the browser. */
async function desk(page: Page, baseURL: string, name: string) {
  const studio = new Studio(baseURL)
  const dir = folder()
  const id = await studio.createProject(name, 1280, 720, { num: 25, den: 1 })
  const bars = await studio.upload(id, colourBars(join(dir, 'bars.mp4')))
  const flash = await studio.upload(id, flashAndBeep(join(dir, 'flash.mp4')))
  const { track } = parts(await studio.ready(id, [bars, flash]))
  const first = piece(track('Picture 1'), bars, null, 0, 2)
  await studio.edit(id, { type: 'place', mode: 'free', pieces: [first, piece(track('Picture 1'), flash, null, 2, 1)] })
  await page.goto(`/projects/${id}`)
  const read = async () => (await studio.call<{ project: Project }>(`/projects/${id}`)).project
  const clip = async () => (await read()).clips[first.clipId] as unknown as Clip
  const overlay = page.getByTestId('viewer-overlay')
  await overlay.waitFor()
  const drag = async (from: [number, number], to: [number, number]) => {
    await page.mouse.move(...from)
    await page.mouse.down()
    await page.mouse.move((from[0] + to[0]) / 2, (from[1] + to[1]) / 2, { steps: 4 })
    await page.mouse.move(...to, { steps: 4 })
    await page.mouse.up()
  }
  const grip = async (name: string): Promise<[number, number]> => {
    const box = (await page.getByRole('button', { name, exact: true }).boundingBox())!
    return [box.x + box.width / 2, box.y + box.height / 2]
  }
  const mode = (name: string) =>
    page.getByLabel('Viewer', { exact: true }).getByRole('button', { name, exact: true }).click()
  const details = page.getByRole('complementary', { name: 'Details' })
  return { studio, id, bars, flash, track, read, clip, overlay, drag, grip, mode, details, first }
}

test('a picture is cropped, levelled and given another anchor by its handles', async ({ page, baseURL }) => {
  const { clip, overlay, drag, grip, mode } = await desk(page, baseURL!, 'Handles')
  const view = (await overlay.boundingBox())!
  await overlay.click({ position: { x: view.width / 2, y: view.height / 3 } })

  // The handle follows the edge it has cropped to: dragged on from there it takes off more.
  await mode('crop')
  const left = await grip('Crop the left')
  await drag(left, [left[0] + view.width * 0.2, left[1]])
  await expect.poll(async () => Math.round((await clip()).params.cropLeft as number)).toBe(20)
  const again = await grip('Crop the left')
  expect(Math.round(((again[0] - view.x) / view.width) * 100)).toBe(20)
  await drag(again, [again[0] + view.width * 0.1, again[1]])
  await expect.poll(async () => Math.round((await clip()).params.cropLeft as number)).toBe(30)
  // Escape gives a drag up.
  const top = await grip('Crop the top')
  await page.mouse.move(...top)
  await page.mouse.down()
  await page.mouse.move(top[0], top[1] + 60, { steps: 4 })
  await page.keyboard.press('Escape')
  await page.mouse.up()
  expect((await clip()).params.cropTop).toBeUndefined()

  // The anchor goes to a corner; the picture stays where it is.
  await mode('anchor')
  const anchor = await grip('Move its anchor')
  await drag(anchor, [view.x + 2, view.y + 2])
  await expect.poll(async () => (await clip()).params.anchor).toEqual([0, 0])
  expect(((await clip()).params.position as number[] | undefined) ?? [0, 0]).toEqual([0, 0])
  await page.keyboard.press('Control+z')
  await expect.poll(async () => (await clip()).params.anchor).toBeUndefined()

  // A line that ought to be level and rises by an eighth: the picture is turned back, and grows until no corner shows.
  await mode('level')
  await drag([view.x + view.width / 2, view.y + 200], [view.x + view.width / 2 + 160, view.y + 180])
  await expect.poll(async () => (await clip()).params.rotation).toBeCloseTo(7.1, 0)
  expect((await clip()).params.size).toBeGreaterThan(115)
})

test('a still moves gently, a path is bent, a whole track and everything beneath are framed', async ({
  page,
  baseURL,
}) => {
  const { clip, read, overlay, drag, grip, details, track } = await desk(page, baseURL!, 'Moves')
  const view = (await overlay.boundingBox())!
  await overlay.click({ position: { x: view.width / 2, y: view.height / 3 } })
  await details.getByRole('button', { name: 'Pan and zoom' }).click()
  await details.getByRole('button', { name: 'Sweep left' }).click()
  type Keyed = { keys: { at: number; value: number[]; bend?: number[] }[] }
  const path = async () => (await clip()).params.position as unknown as Keyed | undefined
  await expect.poll(async () => (await path())?.keys.length).toBe(2)
  expect((await path())!.keys.map(({ at }) => at / SECOND)).toEqual([0, 2])
  expect(Math.sign((await path())!.keys[0]!.value[0]!)).toBe(-Math.sign((await path())!.keys[1]!.value[0]!))

  // A double click rounds the path off there; its tips bend it further.
  await page.getByRole('button', { name: 'Move this point of the path' }).first().dblclick()
  await expect.poll(async () => (await path())?.keys[0]?.bend?.length).toBe(2)
  const before = (await path())!.keys[0]!.bend!
  const tip = (await page.getByRole('button', { name: 'Bend the path' }).first().boundingBox())!
  await drag([tip.x + 10, tip.y + 10], [tip.x + 10, tip.y + 60])
  await expect.poll(async () => (await path())!.keys[0]!.bend![1]! - before[1]!).toBeGreaterThan(50)

  await page.getByRole('button', { name: 'More for Picture 1' }).click()
  await page.getByRole('menuitem', { name: 'Motion and opacity' }).click()
  const opacity = details.getByLabel('Opacity, in %')
  await opacity.fill('50')
  await opacity.press('Enter')
  await expect.poll(async () => (await read()).tracks[track('Picture 1')]!.params.opacity).toBe(50)

  await page.getByRole('button', { name: 'Titles', exact: true }).click()
  await page.getByRole('button', { name: 'Backgrounds', exact: true }).click()
  await page.getByRole('button', { name: 'Adjustment', exact: true }).click()
  await expect
    .poll(
      async () =>
        Object.values((await read()).clips).filter((entry) => (entry as unknown as Clip).kind === 'adjustment').length,
    )
    .toBe(1)
  expect(await grip('Turn it')).toHaveLength(2)
})

test('footage dropped on the picture goes in front; on an empty cell it fills the cell', async ({ page, baseURL }) => {
  const { clip, read, overlay, details, flash, track, first } = await desk(page, baseURL!, 'Cells')
  const view = (await overlay.boundingBox())!
  const carry = async (x: number, y: number) => {
    const source = page.getByTestId('footage-list').getByText('flash')
    // Hints come and go above the list: it is waited for until it stands still.
    await source.click({ trial: true })
    const from = (await source.boundingBox())!
    await page.mouse.move(from.x + 10, from.y - 30)
    await page.mouse.down()
    await page.mouse.move(x - 30, y, { steps: 8 })
    await page.mouse.move(x, y, { steps: 8 })
  }

  await carry(view.x + view.width / 2, view.y + view.height / 2)
  await expect(page.getByText('goes in front, at the playhead')).toBeVisible()
  await page.mouse.up()
  const all = async () => Object.values((await read()).clips as unknown as Record<string, Clip>)
  await expect.poll(async () => (await all()).length).toBeGreaterThan(2)
  const dropped = (await all()).find(
    (entry) => entry.assetId === flash && entry.start === 0 && entry.trackId !== track('Effects'),
  )!
  expect(dropped.trackId).not.toBe(track('Picture 1'))
  expect((await clip()).length).toBe(2 * SECOND)
  expect((await read()).clips[first.clipId]).toBeDefined()
  await page.keyboard.press('Control+z')
  await expect.poll(async () => (await all()).length).toBe(2)

  await overlay.click({ position: { x: view.width / 2, y: view.height / 3 } })
  await details.getByRole('button', { name: 'Split screen: Side by side' }).click()
  const others = async () =>
    Object.values((await read()).clips as unknown as Record<string, Clip>).filter(
      (entry) => entry.generator || (entry.assetId === flash && entry.params.cropLeft !== undefined),
    )
  await expect.poll(async () => (await others()).map(({ kind }) => kind)).toEqual(['generator'])
  expect((await clip()).params.cropLeft).toBeGreaterThan(20)

  await carry(view.x + view.width * 0.75, view.y + view.height / 2)
  await expect(page.getByText('goes into this cell')).toBeVisible()
  await page.mouse.up()
  await expect.poll(async () => (await others()).map(({ kind }) => kind).sort()).toContain('media')
  const filled = (await others()).find(({ kind }) => kind === 'media')!
  expect((filled.params.position as number[])[0]).toBeGreaterThan(300)
})

test('a title of one’s own, a countdown with its tone, and a second window that follows', async ({
  page,
  baseURL,
  context,
}) => {
  const { id, read, details } = await desk(page, baseURL!, 'Own titles')
  const kinds = async (kind: string) =>
    Object.values((await read()).clips as unknown as Record<string, Clip>).filter((entry) => entry.kind === kind)
  await page.locator('body').press('q')
  await page.keyboard.type('Ada at the quay')
  await page.keyboard.press('Escape')
  await details.getByRole('button', { name: 'Keep as a title of your own' }).click()
  await expect(page.getByText('Ada at the quay is kept')).toBeVisible()
  await page.reload()
  await page.getByRole('button', { name: 'Titles', exact: true }).click()
  await page.getByRole('button', { name: 'Ada at the quay', exact: true }).click()
  await expect
    .poll(async () => (await kinds('title')).map(({ title }) => title?.text))
    .toEqual(['Ada at the quay', 'Ada at the quay'])

  await page.getByRole('button', { name: 'Backgrounds', exact: true }).click()
  await page.getByRole('button', { name: 'Countdown', exact: true }).click()
  await details.getByRole('button', { name: 'Add a tone on each second' }).click()
  await expect
    .poll(async () => Object.values((await read()).assets).filter(({ name }) => name === 'second-pips.wav').length)
    .toBe(1)
  const [countdown] = (await kinds('generator')).filter(({ generator }) => generator === 'countdown')
  const ends = async () => {
    const { assets, clips } = await read()
    const tone = Object.values(assets).find(({ name }) => name === 'second-pips.wav')
    return Object.values(clips)
      .filter((entry) => entry.assetId === tone?.id)
      .map(({ start, length }) => start + length)
  }
  await expect.poll(ends).toEqual([countdown!.start + countdown!.length])

  const [second] = await Promise.all([
    context.waitForEvent('page'),
    page.getByRole('button', { name: 'The picture in a window of its own' }).click(),
  ])
  await expect(second).toHaveURL(new RegExp(`/viewer/${id}`))
  await expect(second.getByText('Waiting for the desk')).toBeHidden()
  const picture = second.getByLabel('Picture of the reel')
  const look = async () => (await picture.screenshot()).toString('base64')
  const position = page.getByLabel(/^Position\./)
  await position.fill('60f')
  await position.press('Enter')
  await second.waitForTimeout(1500)
  const dark = await look()
  await position.fill('10f')
  await position.press('Enter')
  await expect.poll(look).not.toBe(dark)
})

test('one drawing thread and two show the same picture', async ({ page, baseURL }) => {
  const { studio, id, first, overlay } = await desk(page, baseURL!, 'Threads')
  await studio.edit(id, {
    type: 'setParams',
    clipIds: [first.clipId],
    set: { rotation: 8, size: 130, shadow: 60, cornerRadius: 40 },
  })
  const shots: string[] = []
  for (const threads of [1, 2]) {
    await page.evaluate((count) => localStorage.setItem('drawing-threads', String(count)), threads)
    await page.goto(`/projects/${id}`)
    await overlay.waitFor()
    await page.waitForFunction(
      () => Number(document.querySelector('[data-shown-tick]')?.getAttribute('data-shown-tick') ?? -1) >= 0,
    )
    await page.waitForTimeout(1500)
    // The second thread is there by the time another place is shown, and has done pieces of it.
    if (threads === 2) {
      const helped = () => page.getByLabel('Viewer', { exact: true }).getAttribute('data-pieces-helped').then(Number)
      await expect.poll(async () => (await page.keyboard.press('ArrowRight'), helped())).toBeGreaterThan(0)
      await page.keyboard.press('Home')
      await page.waitForTimeout(1500)
    }
    shots.push((await page.getByLabel('Picture of the reel').screenshot()).toString('base64'))
  }
  expect(shots[1] === shots[0]).toBe(true)
})
