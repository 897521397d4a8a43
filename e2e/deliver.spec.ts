import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect as patient, test } from '@playwright/test'
import sharp from 'sharp'
import { frameToTicks } from '@dusk/timeline'
import { BARS } from '../apps/renderer/test/bars'
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

/** 4:2:0 planes in BT.709, limited range, as colours (ITU-R BT.709-6 § 3); chroma of the nearest sample. */
function colours(
  { planes, rows }: { planes: readonly number[]; rows: readonly { offset: number; stride: number }[] },
  width: number,
  height: number,
): Buffer {
  const rgb = Buffer.alloc(width * height * 3)
  const at = (plane: number, x: number, y: number) => planes[rows[plane]!.offset + y * rows[plane]!.stride + x]!
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const luma = ((at(0, x, y) - 16) * 255) / 219
      const [cb, cr] = [1, 2].map((plane) => ((at(plane, x >> 1, y >> 1) - 128) * 255) / 224) as [number, number]
      const values = [luma + 1.5748 * cr, luma - 0.1873 * cb - 0.4681 * cr, luma + 1.8556 * cb]
      values.forEach((value, k) => (rgb[(y * width + x) * 3 + k] = Math.min(Math.max(Math.round(value), 0), 255)))
    }
  return rgb
}

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
    const { id: renderId } = await studio.render(id, reelId, format, settings)
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
    const shown = await page.evaluate(async (url) => {
      const video = document.createElement('video')
      video.muted = true
      video.src = url
      await new Promise((resolve) => video.addEventListener('loadeddata', resolve, { once: true }))
      video.currentTime = 0.4
      await new Promise((resolve) => video.addEventListener('seeked', resolve, { once: true }))
      // What it decoded, and what it takes that to be. Without a graphics processor its own way from there to
      // colours falls short by a twentieth in blue, whatever the file.
      let frame: VideoFrame | null = null
      for (const latest = performance.now() + 5000; !frame;)
        try {
          frame = new VideoFrame(video)
        } catch (error) {
          // On a busy machine the picture may come a little after the place that it is at.
          if (performance.now() > latest) throw error
          await new Promise((resolve) => setTimeout(resolve, 50))
        }
      const planes = new Uint8Array(frame.allocationSize())
      const [y, u, v] = await frame.copyTo(planes)
      const { matrix, fullRange, primaries, transfer } = frame.colorSpace
      return {
        ...{ format: frame.format, matrix, fullRange, primaries, transfer, planes: Array.from(planes) },
        ...{ rows: [y!, u!, v!] },
      }
    }, `/api/renders/${renderId}/file`)
    expect(shown).toMatchObject({ format: 'I420', matrix: 'bt709', fullRange: false, primaries: 'bt709' })
    const seen = colours(shown, width, height)
    expect(worst({ width, height, rgb: seen }), `${format} in the browser`).toBeLessThanOrEqual(2)
  }
})

test('originals keep their quality where nothing was changed, and a browser plays across the seams', async ({
  page,
  baseURL,
}) => {
  const studio = new Studio(baseURL!)
  const dir = folder()
  const path = join(dir, 'counting.mp4')
  const rate = { num: 30_000, den: 1001 }
  const lumaOf = (frame: number) => 16 + ((frame * 3) % 200)
  const grey = "nullsrc=s=64x36:r=30000/1001,geq=lum='16+mod(N*3,200)':cb=128:cr=128,scale=640:360:flags=neighbor"
  ffmpeg(
    ...['-f', 'lavfi', '-i', grey],
    ...'-frames:v 300 -c:v libx264 -preset fast -crf 12 -g 30 -bf 3 -sc_threshold 0 -pix_fmt yuv420p'.split(' '),
    ...['-colorspace', 'bt709', '-color_primaries', 'bt709', '-color_trc', 'bt709', path],
  )
  const id = await studio.createProject('Originals', 640, 360, rate)
  const counting = await studio.upload(id, path)
  const { track } = parts(await studio.ready(id, [counting]))
  const shot = (start: number, length: number, source: number) => ({
    ...piece(track('Picture 1'), counting, null, 0, 1),
    ...{ start: frameToTicks(start, rate), length: frameToTicks(length, rate), source: frameToTicks(source, rate) },
  })
  const pieces = [shot(0, 140, 17), shot(140, 95, 200)]
  await studio.edit(id, { type: 'place', mode: 'free', pieces })

  await page.goto(`/projects/${id}`)
  await page.getByRole('button', { name: 'Render', exact: true }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Originals').check()
  await dialog.getByRole('button', { name: 'Start rendering' }).click()
  const card = page.getByRole('article', { name: 'Render Originals' })
  // From 30 to 150 of the first shot, from 210 to 270 of the second.
  await expect(card.getByText('180 frames in their original quality')).toBeVisible()

  // Before, at and behind each seam, forwards and back.
  const frames = [0, 12, 13, 14, 90, 132, 133, 139, 140, 149, 150, 209, 210, 234, 60, 5]
  await card.getByRole('button', { name: 'Play' }).click()
  const seen = await card.locator('video').evaluate(
    async (video: HTMLVideoElement, times) => {
      const canvas = document.createElement('canvas')
      ;[canvas.width, canvas.height] = [64, 36]
      const context = canvas.getContext('2d', { willReadFrequently: true })!
      video.pause()
      const found: number[] = []
      for (const time of times) {
        const arrived = new Promise((resolve) => video.requestVideoFrameCallback(resolve))
        video.currentTime = time
        await arrived
        context.drawImage(video, 0, 0, 64, 36)
        found.push(context.getImageData(32, 18, 1, 1).data[1]!)
      }
      return found
    },
    frames.map((frame) => ((frame + 0.5) * rate.den) / rate.num),
  )
  frames.forEach((frame, i) => {
    const grey = ((lumaOf(frame < 140 ? 17 + frame : 60 + frame) - 16) * 255) / 219
    expect(Math.abs(seen[i]! - grey), `frame ${frame}`).toBeLessThan(3)
  })
})
