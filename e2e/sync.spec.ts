import { join } from 'node:path'
import { expect, test } from '@playwright/test'
import { parts, piece, SECOND, Studio } from './tools/api'
import { flashAndBeep, folder } from './tools/media'

test('the picture follows the sound', async ({ page, baseURL }) => {
  const studio = new Studio(baseURL!)
  const dir = folder()
  const id = await studio.createProject('A minute', 960, 540, { num: 25, den: 1 })
  const flash = await studio.upload(id, flashAndBeep(join(dir, 'flash.mp4')))
  const { track } = parts(await studio.ready(id, [flash]))
  const pieces = Array.from({ length: 6 }, (_, i) => {
    const link = crypto.randomUUID()
    return [
      piece(track('Picture 1'), flash, null, i * 6, 6, 0, link),
      piece(track('Effects'), flash, 0, i * 6, 6, 0, link),
    ]
  }).flat()
  await studio.edit(id, { type: 'place', mode: 'free', pieces })
  await page.goto(`/projects/${id}`)
  const viewer = page.getByLabel('Viewer', { exact: true })
  await expect(page.getByTestId('timeline-body').getByRole('button').first()).toBeVisible()
  await page.keyboard.press('Space')
  await expect(viewer).toHaveAttribute('data-playing', 'true')
  const seconds = async () => {
    const [, minutes, whole, frames] = (await page.getByLabel(/^Position/).inputValue()).split(':').map(Number)
    return minutes! * 60 + whole! + frames! / 25
  }
  const data = async (name: string) => Number(await viewer.getAttribute(`data-${name}`))
  await expect.poll(seconds, { timeout: 400_000 }).toBeGreaterThan(4)
  await page.keyboard.press('Space')
  await expect(viewer).toHaveAttribute('data-playing', 'false')
  const played = await seconds()
  // Every frame of sound heard had its picture, shown or passed over: the picture follows, and is nowhere lost for good.
  const [shown, dropped] = [await data('frames-shown'), await data('frames-dropped')]
  expect(Math.abs(shown + dropped - played * 25)).toBeLessThanOrEqual(25)
  expect(shown).toBeGreaterThan(0)
  // Where it stopped, picture and position are the same frame.
  await expect.poll(async () => Math.round(((await data('shown-tick')) * 25) / SECOND)).toBe(Math.round(played * 25))
})
