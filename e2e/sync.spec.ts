import { join } from 'node:path'
import { expect, test } from '@playwright/test'
import { parts, piece, Studio } from './tools/api'
import { flashAndBeep, folder } from './tools/media'

test('picture and sound stay together over a minute of play', async ({ page, baseURL }) => {
  const studio = new Studio(baseURL!)
  const dir = folder()
  const id = await studio.createProject('A minute', 960, 540, { num: 25, den: 1 })
  const flash = await studio.upload(id, flashAndBeep(join(dir, 'flash.mp4')))
  const { track } = parts(await studio.ready(id, [flash]))
  const pieces = Array.from({ length: 11 }, (_, i) => {
    const link = crypto.randomUUID()
    return [piece(track('Picture 1'), flash, null, i * 6, 6, 0, link), piece(track('Effects'), flash, 0, i * 6, 6, 0, link)]
  }).flat()
  await studio.edit(id, { type: 'place', mode: 'free', pieces })
  await page.goto(`/projects/${id}`)
  const viewer = page.getByLabel('Viewer', { exact: true })
  await expect(page.getByTestId('timeline-body').getByRole('button').first()).toBeVisible()
  await page.keyboard.press('Space')
  await expect(viewer).toHaveAttribute('data-playing', 'true')
  const began = Date.now()
  await page.waitForTimeout(61_000)
  const text = (await page.getByLabel(/^Position/).inputValue()).split(':').map(Number)
  const position = text[1]! * 60 + text[2]! + text[3]! / 25
  const passed = (Date.now() - began) / 1000
  // The clock is the sound card's: it keeps the time of the wall.
  expect(Math.abs(position - passed)).toBeLessThan(1.5)
  const shown = Number(await viewer.getAttribute('data-frames-shown'))
  const lag = Number(await viewer.getAttribute('data-worst-lag'))
  expect(shown).toBeGreaterThan(61 * 25 * 0.85)
  expect(lag).toBeLessThanOrEqual(1)
})
