import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect as patient, test } from '@playwright/test'
import sharp from 'sharp'
import { parts, piece, Studio } from './tools/api'
import { colourBars, ffmpeg, folder } from './tools/media'
import { averageColour, captured, type Shot } from './tools/pictures'

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

/** Bars as in EBU Tech 3325, at three quarters and in full, with a grey. */
const BARS = [
  [191, 191, 191],
  [191, 191, 0],
  [0, 191, 191],
  [0, 191, 0],
  [191, 0, 191],
  [191, 0, 0],
  [0, 0, 191],
  [40, 40, 40],
] as const

test('bars come through a render as they were: in the browser, by ffmpeg, and in the saved frame', async ({
  page,
  baseURL,
}) => {
  const studio = new Studio(baseURL!)
  const [width, height] = [640, 360]
  const path = join(folder(), 'bars.png')
  const pixels = Buffer.alloc(width * height * 3)
  for (let i = 0; i < width * height; i++) pixels.set(BARS[Math.floor((i % width) / 80)]!, i * 3)
  await sharp(pixels, { raw: { width, height, channels: 3 } }).toFile(path)
  const id = await studio.createProject('Bars', width, height, { num: 25, den: 1 })
  const bars = await studio.upload(id, path)
  const { reelId, track } = parts(await studio.ready(id, [bars]))
  await studio.edit(id, { type: 'place', mode: 'free', pieces: [piece(track('Picture 1'), bars, null, 0, 1)] })
  /** The largest difference of any bar from what it should be. */
  const worst = (shot: Shot) =>
    Math.max(...BARS.flatMap((bar, i) => averageColour(shot, (i + 0.5) / 8, 0.5).map((c, k) => Math.abs(c - bar[k]!))))

  await page.goto(`/projects/${id}`)
  await expect
    .poll(async () => Number(await page.locator('[data-shown-tick]').getAttribute('data-shown-tick')))
    .toBeGreaterThanOrEqual(0)
  expect(worst(await captured(page, width, height))).toBeLessThanOrEqual(2)

  const exactly = ['-vf', 'scale=flags=accurate_rnd+full_chroma_int+full_chroma_inp']
  for (const format of ['mp4-h264', 'webm-vp9', 'mp4-av1']) {
    const settings = { width, height, rate: { num: 25, den: 1 }, quality: 'best', range: null, sound: false, format }
    const asked = { reelId, name: format, settings }
    const { id: renderId } = await studio.call<{ id: string }>(`/projects/${id}/renders`, 'POST', asked)
    const stateOf = async () =>
      (await studio.call<{ renders: { id: string; state: string }[] }>('/renders')).renders.find(
        (render) => render.id === renderId,
      )!.state
    await expect.poll(stateOf).toBe('ready')
    const file = join(folder(), format)
    writeFileSync(file, await studio.file(`/api/renders/${renderId}/file`))
    const rgb = ffmpeg(
      '-ss',
      '0.4',
      '-i',
      file,
      '-frames:v',
      '1',
      ...exactly,
      '-f',
      'rawvideo',
      '-pix_fmt',
      'rgb24',
      '-',
    )
    expect(worst({ width, height, rgb: rgb as Buffer }), `${format} by ffmpeg`).toBeLessThanOrEqual(2)
    const shown = await page.evaluate(
      async ([url, w, h]) => {
        const video = document.createElement('video')
        video.muted = true
        video.src = url as string
        await new Promise((resolve) => video.addEventListener('loadeddata', resolve, { once: true }))
        video.currentTime = 0.4
        await new Promise((resolve) => video.addEventListener('seeked', resolve, { once: true }))
        const canvas = new OffscreenCanvas(w as number, h as number)
        const context = canvas.getContext('2d')!
        context.drawImage(video, 0, 0)
        return Array.from(context.getImageData(0, 0, w as number, h as number).data)
      },
      [`/api/renders/${renderId}/file`, width, height] as const,
    )
    const seen = Buffer.from(shown.filter((_, i) => i % 4 < 3))
    expect(worst({ width, height, rgb: seen }), `${format} in the browser`).toBeLessThanOrEqual(2)
  }
})
