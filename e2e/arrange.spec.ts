import { join } from 'node:path'
import { expect, test, type Page } from '@playwright/test'
import { parts, piece, Studio, SECOND, type ProjectState } from './tools/api'
import { folder, makeOnce, song } from './tools/media'

const COLOURS = 'red green blue yellow white magenta cyan orange purple brown gray pink'.split(' ')

/** Twelve seconds in which every second has a colour of its own, with a tone. */
function colours(path: string): string {
  const inputs = COLOURS.flatMap((colour) => ['-f', 'lavfi', '-i', `color=${colour}:s=640x360:r=25:d=1`])
  return makeOnce(
    path,
    ...[...inputs, '-f', 'lavfi', '-i', 'sine=440:d=12', '-filter_complex', 'concat=n=12:v=1:a=0', '-map', '12:a'],
    ...['-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-c:a', 'aac'],
  )
}

async function desk(page: Page, baseURL: string) {
  const studio = new Studio(baseURL)
  const dir = folder()
  const id = await studio.createProject('Arranging', 640, 360, { num: 25, den: 1 })
  const shot = await studio.upload(id, colours(join(dir, 'colours.mp4')))
  const chord = await studio.upload(id, song(join(dir, 'chord.wav')))
  const state = await studio.ready(id, [shot, chord])
  await page.goto(`${baseURL}/projects/${id}`)
  await page.waitForFunction(
    () =>
      Number(document.querySelector('[data-shown-tick]')?.getAttribute('data-shown-tick') ?? -1) >= 0 ||
      document.body.textContent?.includes('Drag footage to the timeline'),
  )
  const clips = async (track: string) => {
    const { project } = await studio.call<ProjectState>(`/projects/${id}`)
    const trackId = Object.values(project.tracks).find((entry) => entry.name === track)?.id
    return Object.values(project.clips)
      .filter((clip) => clip.trackId === trackId)
      .sort((a, b) => a.start - b.start)
      .map((clip) => [clip.start / SECOND, clip.length / SECOND])
  }
  return { studio, id, shot, state, clips }
}

const position = async (page: Page, text: string) => {
  const field = page.getByLabel(/^Position\./)
  await field.fill(text)
  await field.press('Enter')
}

test('a source is watched, marked, kept as subclips and put into the reel in every way', async ({ page, baseURL }) => {
  const d = await desk(page, baseURL!)
  const ribbon = page.getByTestId('state-ribbon')
  await page.getByRole('button', { name: /^colours\.mp4, video/ }).dblclick()
  await expect(ribbon).toContainText('Source')
  await expect(ribbon).toContainText('colours.mp4')
  // The card that was opened still has the focus: the key plays what it opened.
  await page.keyboard.press('Space')
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible()
  await page.keyboard.press('Space')
  await expect(page.getByRole('button', { name: 'Play' })).toBeVisible()
  // Nothing reaches beyond the window, so that nothing can be scrolled out of it.
  expect(
    await page.evaluate(() => [document.documentElement, document.body].map((one) => one.scrollWidth - innerWidth)),
  ).toEqual([0, 0])
  await position(page, '2s')
  await page.keyboard.press('i')
  await position(page, '3.96s')
  await page.keyboard.press('o')
  await expect(ribbon).toContainText('2.00 s')
  await page.keyboard.press('p')
  await expect(page.getByTestId('source-strip').getByText('Part 1')).toBeVisible()
  await page.getByRole('button', { name: 'Insert here' }).click()
  await expect.poll(() => d.clips('Picture 1')).toEqual([[0, 2]])
  // Only its picture, at the end, of another part.
  await page.getByRole('button', { name: /^What of it goes into the reel/ }).click()
  await page.getByRole('option', { name: 'Picture only' }).click()
  await position(page, '5s')
  await page.keyboard.press('i')
  await position(page, '5.96s')
  await page.keyboard.press('o')
  await page.getByRole('button', { name: 'Add to end' }).click()
  await expect
    .poll(() => d.clips('Picture 1'))
    .toEqual([
      [0, 2],
      [2, 1],
    ])
  const sounds = async () => (await Promise.all(['Voice', 'Music', 'Effects'].map(d.clips))).flat()
  expect(await sounds()).toEqual([[0, 2]])
  await page.getByRole('button', { name: 'Back to the reel' }).click()
  await expect(ribbon).toContainText('Reel')
  await position(page, '1s')
  await page.getByRole('button', { name: /^colours\.mp4, video/ }).dblclick()
  // The source stands where it was, its marks too.
  await expect(ribbon).toContainText('1.00 s')
  await page.getByRole('button', { name: 'Stack above' }).click()
  await expect.poll(() => d.clips('Picture 2')).toEqual([[1, 1]])
  await page.getByRole('button', { name: 'Back to the reel' }).click()
  await position(page, '0s')
  await page.getByTestId('source-strip').waitFor({ state: 'detached' })
  await page.keyboard.press('Control+z')
  await expect.poll(() => d.clips('Picture 2')).toEqual([])
})

test('cuts are trimmed, rolled, slipped, reordered, copied and taken back to any point', async ({ page, baseURL }) => {
  const d = await desk(page, baseURL!)
  const { track } = parts(d.state)
  await d.studio.edit(d.id, {
    type: 'place',
    mode: 'free',
    pieces: [piece(track('Picture 1'), d.shot, null, 0, 3, 2), piece(track('Picture 1'), d.shot, null, 3, 3, 6)],
  })
  const body = page.getByTestId('timeline-body')
  await expect(body.locator('[data-clip]')).toHaveCount(2)
  await page.keyboard.press('0')
  const box = async (n: number) => (await body.locator('[data-clip]').nth(n).boundingBox())!
  const drag = async (x: number, y: number, by: number) => {
    await page.mouse.move(x, y)
    await page.mouse.down()
    await page.mouse.move(x + by / 2, y, { steps: 4 })
    await page.mouse.move(x + by, y, { steps: 4 })
    await page.mouse.up()
  }
  const first = await box(0)
  const second = first.width / 3
  // Roll the cut half a second to the left: nothing else moves.
  await page.keyboard.press('3')
  await page.keyboard.press('g')
  await drag(first.x + first.width - 3, first.y + 30, -second / 2)
  await expect
    .poll(async () => (await d.clips('Picture 1')).flat().map((n) => Math.round(n * 5) / 5))
    .toEqual([0, 2.4, 2.4, 3.6].map((n) => expect.closeTo(n, 0.3)))
  await page.keyboard.press('Control+z')
  await expect
    .poll(() => d.clips('Picture 1'))
    .toEqual([
      [0, 3],
      [3, 3],
    ])
  // Ripple: the first gets shorter, the second moves up.
  await page.keyboard.press('2')
  await drag(first.x + first.width - 3, first.y + 30, -second)
  await expect.poll(async () => (await d.clips('Picture 1'))[1]![0]).toBeCloseTo(2, 0)
  await page.keyboard.press('Control+z')
  // Slip: the place stays, the footage changes.
  await page.keyboard.press('4')
  await drag(first.x + first.width / 2, first.y + 30, second)
  const head = async () => {
    const { project } = await d.studio.call<{
      project: { clips: Record<string, { start: number; map: { source: number } }> }
    }>(`/projects/${d.id}`)
    return Object.values(project.clips).find((clip) => clip.start === 0)!.map.source / SECOND
  }
  await expect.poll(head).toBeCloseTo(1, 0)
  expect(await d.clips('Picture 1')).toEqual([
    [0, 3],
    [3, 3],
  ])
  await page.keyboard.press('1')
  // The storyboard shows the same clips; Alt and an arrow put a shot elsewhere.
  await page.keyboard.press('t')
  const cards = page.getByRole('button', { name: /Alt and an arrow move it/ })
  await expect(cards).toHaveCount(2)
  await cards.first().focus()
  await page.keyboard.press('Alt+ArrowRight')
  await expect.poll(head).toBeCloseTo(6, 0)
  await page.keyboard.press('Escape')
  await page.keyboard.press('t')
  // Copy and paste at the end.
  await page.keyboard.press('Control+a')
  await page.keyboard.press('Control+c')
  await page.keyboard.press('End')
  await page.keyboard.press('Control+v')
  await expect.poll(async () => (await d.clips('Picture 1')).length).toBe(4)
  // Markers are tapped, found in the drawer, and the history leads back, also after a reload.
  await position(page, '1s')
  await page.keyboard.press('Escape')
  await page.keyboard.press('m')
  await page.getByRole('button', { name: 'Markers', exact: true }).click()
  await expect(page.getByLabel('Markers', { exact: true }).getByText('Marker 1')).toBeVisible()
  await expect(page.getByText(/every edit kept/)).toBeVisible()
  await page.reload()
  await page.getByRole('button', { name: 'History' }).click()
  const history = page.getByRole('list', { name: 'History' })
  await expect(history.getByText('Set 1 marker')).toBeVisible()
  await expect(history.getByText('Slipped 1 clip')).toBeVisible()
  await history.getByRole('button', { name: /^Placed/ }).click()
  await expect
    .poll(() => d.clips('Picture 1'))
    .toEqual([
      [0, 3],
      [3, 3],
    ])
  await expect.poll(head).toBeCloseTo(2, 1)
})

test('shortcuts are changed, kept, and clash in words', async ({ page, baseURL }) => {
  await desk(page, baseURL!)
  await page.getByRole('button', { name: 'Keys' }).click()
  const sheet = page.getByRole('dialog')
  await sheet.getByLabel('Find a shortcut').fill('split at')
  await sheet.getByRole('button', { name: 'Give Split at the playhead a key' }).click()
  await page.keyboard.press('m')
  await expect(sheet.getByText('1 key has two actions')).toBeVisible()
  await expect(sheet.getByLabel('Set of shortcuts')).toHaveText('Mine')
  await sheet.getByRole('button', { name: 'Take M from Split at the playhead' }).click()
  await sheet.getByRole('button', { name: 'Give Split at the playhead a key' }).click()
  await page.keyboard.press('q')
  await sheet.getByRole('button', { name: 'Done' }).click()
  await page.reload()
  await expect(page.getByRole('button', { name: 'Split', exact: true })).toHaveAttribute('title', /\(X\)/)
  await page.getByRole('button', { name: 'Keys' }).click()
  await expect(
    page.getByRole('dialog').getByRole('button', { name: 'Take Q from Split at the playhead' }),
  ).toBeVisible()
  await page.getByRole('dialog').getByRole('button', { name: 'Remove this set' }).click()
  await expect(page.getByRole('dialog').getByLabel('Set of shortcuts')).toHaveText('Dusk')
})
