import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect as patient, test } from '@playwright/test'
import sharp from 'sharp'
import { parts, piece, Studio } from './tools/api'
import { colourBars, ffmpeg, folder } from './tools/media'

const expect = patient.configure({ timeout: 60_000 })

test('a reel is delivered for several purposes: a moving picture, sound alone, and upright', async ({
  page,
  baseURL,
}) => {
  const studio = new Studio(baseURL!)
  const dir = folder()
  const id = await studio.createProject('Deliver', 640, 360, { num: 25, den: 1 })
  const bars = await studio.upload(id, colourBars(join(dir, 'bars.mp4')))
  const { track } = parts(await studio.ready(id, [bars]))
  await studio.edit(id, {
    type: 'place',
    mode: 'free',
    pieces: [piece(track('Picture 1'), bars, null, 0, 1), piece(track('Voice'), bars, 0, 0, 1)],
  })

  /** Renders for a purpose, and downloads what came of it. */
  async function deliver(purpose: string, name: string): Promise<string> {
    await page.goto(`/projects/${id}`)
    await page.getByRole('button', { name: 'Render', exact: true }).click()
    const dialog = page.getByRole('dialog')
    await dialog.getByLabel('Name', { exact: true }).fill(name)
    await dialog.getByRole('button', { name: /^For / }).click()
    await dialog.getByRole('option', { name: new RegExp(`^${purpose}`) }).click()
    await dialog.getByRole('button', { name: 'Start rendering' }).click()
    const card = page.getByRole('article', { name: `Render ${name}` })
    await expect(card.getByText('Checked:')).toBeVisible()
    const download = page.waitForEvent('download')
    await card.getByRole('link', { name: 'Download' }).click()
    const path = join(dir, (await download).suggestedFilename())
    await (await download).saveAs(path)
    return path
  }

  const loop = await deliver('Moving picture for a page', 'loop')
  expect(loop).toMatch(/loop\.webp$/)
  const { pages, width, height } = await sharp(loop).metadata()
  expect([width, height]).toEqual([854, 480])
  expect(pages!).toBeGreaterThan(5)
  const card = page.getByRole('article', { name: 'Render loop' })
  await card.getByRole('button', { name: 'Play' }).click()
  await expect
    .poll(() =>
      card
        .locator('img')
        .last()
        .evaluate((image: HTMLImageElement) => image.naturalWidth),
    )
    .toBe(854)

  const heard = await deliver('Sound alone', 'heard')
  expect(heard).toMatch(/heard\.m4a$/)
  expect(readFileSync(heard).subarray(4, 8).toString()).toBe('ftyp')

  const tall = await deliver('Tall clip', 'tall')
  const size = ffmpeg('-i', tall, '-frames:v', '1', '-f', 'rawvideo', '-pix_fmt', 'gray', '-')
  expect((size as Buffer).length).toBe(1080 * 1920)
  await page.goto(`/projects/${id}`)
  await page.getByRole('button', { name: 'Render', exact: true }).click()
  await expect(page.getByRole('dialog').getByRole('button', { name: /^For / })).toHaveText(/Tall clip/)
})
