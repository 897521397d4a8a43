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
  await page.waitForTimeout(3000)
  const start = { position: await seconds(), wall: Date.now() }
  await page.waitForTimeout(60_000)
  const played = (await seconds()) - start.position
  const passed = (Date.now() - start.wall) / 1000
  // A machine without a sound card keeps sound's time by a timer that may run a little slow, never fast.
  expect(played / passed).toBeGreaterThan(0.9)
  expect(played / passed).toBeLessThan(1.01)
  const data = async (name: string) => Number(await viewer.getAttribute(`data-${name}`))
  const shown = await data('frames-shown')
  expect(await data('underruns')).toBe(0)
  expect(shown).toBeGreaterThan(played * 25 * 0.85)
  // A frame that took long to draw may come late; the picture never falls behind for good.
  expect((await data('frames-late')) / shown).toBeLessThan(0.05)
})
