import { join } from 'node:path'
import { expect, test, type Page } from '@playwright/test'
import { SECOND, Studio } from './tools/api'
import { colourBars, flashAndBeep, folder, lumaMeans, probe, samples, song } from './tools/media'

/** Clips of the open project by the name of their track, in time order, in seconds. */
async function layout(studio: Studio, id: string) {
  const { project } = await studio.call<import('./tools/api').ProjectState>(`/projects/${id}`)
  const found: Record<string, string[]> = {}
  for (const clip of Object.values(project.clips).sort((a, b) => a.start - b.start)) {
    const name = project.tracks[clip.trackId]!.name
    const asset = project.assets[clip.assetId]!.name.replace(/\..*/, '')
    ;(found[name] ??= []).push(`${asset} ${(clip.start / SECOND).toFixed(2)}+${(clip.length / SECOND).toFixed(2)}`)
  }
  return found
}

/** Drags with real pointer steps. */
async function drag(page: Page, from: { x: number; y: number }, to: { x: number; y: number }) {
  await page.mouse.move(from.x, from.y)
  await page.mouse.down()
  await page.mouse.move(from.x + 6, from.y + 2, { steps: 3 })
  await page.mouse.move(to.x, to.y, { steps: 12 })
  await page.mouse.up()
}

const middle = (box: { x: number; y: number; width: number; height: number }) => ({
  x: box.x + box.width / 2,
  y: box.y + box.height / 2,
})

test('from three files to a finished video', async ({ page, baseURL }) => {
  const studio = new Studio(baseURL!)
  const dir = folder()
  const files = [flashAndBeep(join(dir, 'flash.mp4')), colourBars(join(dir, 'bars.mp4')), song(join(dir, 'chord.wav'))]
  const complaints: string[] = []
  page.on('console', (message) => message.type() === 'error' && complaints.push(message.text()))
  page.on('pageerror', (error) => complaints.push(error.message))

  // A project.
  await page.goto('/')
  await page.getByRole('button', { name: 'New project' }).click()
  const fresh = page.getByRole('dialog')
  await fresh.getByLabel('Name', { exact: true }).fill('Lantern story')
  await fresh.getByLabel('Size').click()
  await page.getByRole('option', { name: '1280 × 720' }).click()
  await fresh.getByLabel('Frames/s').click()
  await page.getByRole('option', { name: '25', exact: true }).click()
  await page.getByRole('button', { name: 'Create' }).click()
  await page.waitForURL(/projects\//)
  const id = page.url().split('/').at(-1)!

  // Three files.
  await page.getByLabel('Files to add').setInputFiles(files)
  const card = (name: string) => page.getByRole('button', { name: new RegExp(`^${name}.*Press Enter`) })
  for (const name of ['flash', 'bars', 'chord']) await expect(card(name)).toBeVisible()
  await expect
    .poll(
      async () =>
        Object.values((await studio.call<import('./tools/api').ProjectState>(`/projects/${id}`)).sources).filter(
          (source) => source.state === 'ready',
        ).length,
      { timeout: 300_000 },
    )
    .toBe(3)

  // The first by drag to the beginning of Picture 1, the others from the keyboard.
  const body = (await page.getByTestId('timeline-body').boundingBox())!
  // Lines of what was just uploaded lie above the cards for a while, and may push them out of sight.
  await card('flash').hover()
  await drag(page, middle((await card('flash').boundingBox())!), { x: body.x + 3, y: body.y + 82 })
  await expect
    .poll(() => layout(studio, id))
    .toEqual({ 'Picture 1': ['flash 0.00+6.00'], Effects: ['flash 0.00+6.00'] })
  await card('bars').focus()
  await page.keyboard.press('Enter')
  await expect.poll(async () => (await layout(studio, id))['Picture 1']).toEqual(['flash 0.00+6.00', 'bars 6.00+4.00'])
  await card('chord').focus()
  await page.keyboard.press('Enter')
  await expect.poll(async () => (await layout(studio, id)).Music).toEqual(['chord 0.00+12.00'])
  await page.getByRole('button', { name: 'Show the whole reel' }).click()

  // Trim the end of the bars by dragging their edge one second to the left: its sound goes along.
  const clip = (name: RegExp) => page.getByTestId('timeline-body').getByRole('button', { name })
  const bars = (await clip(/^bars.* on Picture 1/).boundingBox())!
  const pixels = bars.width / 4
  await drag(
    page,
    { x: bars.x + bars.width - 3, y: bars.y + 30 },
    { x: bars.x + bars.width - 3 - pixels, y: bars.y + 30 },
  )
  await expect.poll(async () => (await layout(studio, id))['Picture 1']![1]).toMatch(/bars 6.00\+3.0/)
  const trimmed = await layout(studio, id)
  expect(trimmed.Effects![1]).toBe(trimmed['Picture 1']![1])

  // Split the flash at two seconds, and close the first part up.
  const position = page.getByLabel(/^Position\./)
  await position.fill('2s')
  await position.press('Enter')
  await clip(/^flash.* on Picture 1/).click()
  await page.getByRole('button', { name: 'Split', exact: true }).click()
  await expect
    .poll(async () => (await layout(studio, id))['Picture 1']!.slice(0, 2))
    .toEqual(['flash 0.00+2.00', 'flash 2.00+4.00'])
  await clip(/^flash.* on Picture 1, from 0:00:00:00/).click()
  await expect(page.getByRole('button', { name: 'Close up' })).toBeEnabled()
  await page.keyboard.press('Backspace')
  await expect.poll(async () => (await layout(studio, id))['Picture 1']!.length).toBe(2)
  const closed = await layout(studio, id)
  expect(closed['Picture 1']![0]).toBe('flash 0.00+4.00')
  expect(closed.Music).toEqual(['chord 0.00+12.00'])

  // Delete the bars, and take that back.
  await clip(/^bars.* on Picture 1/).click()
  await page.keyboard.press('Delete')
  await expect.poll(async () => (await layout(studio, id))['Picture 1']!.length).toBe(1)
  await page.keyboard.press('Control+z')
  await expect.poll(() => layout(studio, id)).toEqual(closed)
  await page.keyboard.press('Control+Shift+z')
  await expect.poll(async () => (await layout(studio, id))['Picture 1']!.length).toBe(1)
  await page.keyboard.press('Control+z')
  await expect.poll(() => layout(studio, id)).toEqual(closed)

  // A reload keeps everything, undo too.
  await page.reload()
  await expect(clip(/^bars.* on Picture 1/)).toBeVisible()
  await expect(page.getByRole('button', { name: 'Undo' })).toBeEnabled()

  // Play: the clock runs, pictures follow it.
  const viewer = page.getByLabel('Viewer', { exact: true })
  await page.keyboard.press('Home')
  await page.keyboard.press('Space')
  await expect(viewer).toHaveAttribute('data-playing', 'true')
  await expect.poll(async () => Number(await viewer.getAttribute('data-frames-shown'))).toBeGreaterThan(25)
  await page.keyboard.press('Space')
  await expect(position).not.toHaveValue('0:00:00:00')

  // The song ends with the picture: cut the rest off.
  const end = Math.max(
    ...closed['Picture 1']!.map((text) => Number(text.split(' ')[1]!.split('+')[0]) + Number(text.split('+')[1])),
  )
  await position.fill(`${Math.round(end * 25)}f`)
  await position.press('Enter')
  await clip(/^chord/).click({ position: { x: 30, y: 6 } })
  await page.keyboard.press('x')
  await page.keyboard.press('Escape')
  await clip(new RegExp(`^chord.*from 0:00:0[5-9]`)).click({ position: { x: 30, y: 6 } })
  await page.keyboard.press('Delete')
  await expect.poll(async () => (await layout(studio, id)).Music!.length).toBe(1)

  // Render and download.
  await page.getByRole('button', { name: 'Render', exact: true }).click()
  await page.getByRole('dialog').getByLabel('Name', { exact: true }).fill('Lantern story, final')
  await page.getByRole('button', { name: 'Start rendering' }).click()
  await page.waitForURL(/renders/)
  const render = page.getByRole('article', { name: 'Render Lantern story, final' })
  await expect(render.getByText('Checked:')).toBeVisible({ timeout: 400_000 })
  await render.getByRole('button', { name: 'Play' }).click()
  await expect
    .poll(() => render.locator('video').evaluate((video: HTMLVideoElement) => video.currentTime))
    .toBeGreaterThan(0.3)
  const download = page.waitForEvent('download')
  await render.getByRole('link', { name: 'Download' }).click()
  const file = await download
  expect(file.suggestedFilename()).toBe('Lantern story, final.mp4')
  const path = join(dir, 'final.mp4')
  await file.saveAs(path)

  const frames = Math.round(end * 25)
  const probed = probe(path)
  expect(probed.video).toEqual({ frames, start: 0, width: 1280, height: 720 })
  expect(Math.abs(probed.audio.seconds - end)).toBeLessThanOrEqual(0.025)
  // The first part was cut off at two seconds, where a flash is: it now opens the video. Then one a second.
  const means = lumaMeans(path)
  const bright = means.flatMap((value, i) => (value > 200 ? [i] : []))
  expect(bright.slice(0, 4)).toEqual([0, 25, 50, 75])
  // The song is heard all through, also where the bars' tone is.
  const heard = samples(path)
  const level = (from: number, to: number) =>
    Math.sqrt(
      heard.subarray(from * 48_000, to * 48_000).reduce((sum, value) => sum + value * value, 0) /
        ((to - from) * 48_000),
    )
  expect(level(0.2, 0.9)).toBeGreaterThan(0.15)
  expect(level(4.2, 5.5)).toBeGreaterThan(level(0.2, 0.9))
  expect(complaints).toEqual([])
})
