import { execFileSync } from 'node:child_process'
import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, test } from '@playwright/test'
import { parts, piece, SECOND, Studio } from './tools/api'
import { colourBars, ffmpeg, flashAndBeep, folder, lumaMeans, probe, samples } from './tools/media'

/** SSIM of two files, frame by frame, as ffmpeg's filter computes it. */
function ssim(a: string, raw: string, width: number, height: number, rate: string): number[] {
  const log = `${raw}.ssim`
  ffmpeg(
    '-i',
    a,
    '-f',
    'rawvideo',
    '-pix_fmt',
    'rgba',
    '-s',
    `${width}x${height}`,
    '-r',
    rate,
    '-i',
    raw,
    '-lavfi',
    `[1:v]scale=out_color_matrix=bt709:out_range=tv,format=yuv420p[b];[0:v][b]ssim=stats_file=${log}`,
    '-f',
    'null',
    '-',
  )
  return [...readFileSync(log, 'utf8').matchAll(/All:([\d.]+)/g)].map((match) => Number(match[1]))
}

test('what plays is what renders: same pixels before encoding, and the file holds them', async ({ page, baseURL }) => {
  const studio = new Studio(baseURL!)
  const dir = folder()
  const rate = { num: 25, den: 1 }
  const id = await studio.createProject('Parity', 1280, 720, rate)
  const still = join(dir, 'card.png')
  ffmpeg('-f', 'lavfi', '-i', 'color=c=orange@0.6:s=300x200,format=rgba', '-frames:v', '1', still)
  const [flash, bars, card] = await Promise.all([
    studio.upload(id, flashAndBeep(join(dir, 'flash.mp4'))),
    studio.upload(id, colourBars(join(dir, 'bars.mp4'))),
    studio.upload(id, still),
  ])
  const state = await studio.ready(id, [flash, bars, card])
  const { reelId, track } = parts(state)
  const over = piece(track('Picture 2'), bars, null, 1, 2, 0.5)
  const glass = piece(track('Picture 2'), card, null, 3.4, 1)
  const result = await studio.edit(
    id,
    {
      type: 'place',
      mode: 'free',
      pieces: [piece(track('Picture 1'), flash, null, 0, 5), piece(track('Effects'), flash, 0, 0, 5)],
    },
    { type: 'place', mode: 'free', pieces: [over, glass] },
    {
      type: 'setParams',
      clipIds: [over.clipId],
      set: { position: [200, -80], size: 55, rotation: 9, opacity: 80 },
    },
    { type: 'setParams', clipIds: [glass.clipId], set: { position: [-200, 60], size: 50 } },
  )
  expect(result.outcomes.filter((outcome) => outcome.refused)).toEqual([])

  // Frames from the browser's compositor, at full size, from original files.
  const ticks = [0, 10, 31, 47, 60, 74, 90, 124].map((frame) => (frame * SECOND) / 25)
  await page.goto(`/projects/${id}`)
  const position = page.getByLabel(/^Position\./)
  const browser: Buffer[] = []
  for (const tick of ticks) {
    await position.fill(`${(tick * 25) / SECOND}f`)
    await position.press('Enter')
    const download = page.waitForEvent('download')
    await page.getByRole('button', { name: 'Save this frame as a picture' }).click()
    const png = join(dir, `frame-${tick}.png`)
    await (await download).saveAs(png)
    browser.push(ffmpeg('-i', png, '-f', 'rawvideo', '-pix_fmt', 'rgba', 'pipe:1'))
  }

  // The same frames from the renderer, before encoding.
  const request = join(dir, 'request.json')
  const raw = join(dir, 'frames.rgba')
  writeFileSync(request, JSON.stringify({ projectId: id, reelId, size: { width: 1280, height: 720 }, ticks }))
  execFileSync('node', ['--import', 'tsx', 'e2e/tools/frames.ts', request, raw], { env: process.env })
  const rendered = readFileSync(raw)
  const size = 1280 * 720 * 4
  expect(rendered.length).toBe(size * ticks.length)
  ticks.forEach((tick, i) => {
    const ours = rendered.subarray(i * size, (i + 1) * size)
    expect(browser[i]!.length, `frame at ${tick}`).toBe(size)
    expect(Buffer.compare(browser[i]!, ours), `frame at ${tick} differs`).toBe(0)
  })

  // Every frame of the finished file against what was drawn.
  const settings = { width: 1280, height: 720, rate, quality: 'best', range: null, sound: true }
  const { id: renderId } = await studio.render(id, reelId, 'Parity', settings)
  const file = join(dir, 'parity.mp4')
  writeFileSync(file, await studio.file(`/api/renders/${renderId}/file`))
  const all = Array.from({ length: 125 }, (_, frame) => (frame * SECOND) / 25)
  writeFileSync(request, JSON.stringify({ projectId: id, reelId, size: { width: 1280, height: 720 }, ticks: all }))
  execFileSync('node', ['--import', 'tsx', 'e2e/tools/frames.ts', request, raw], { env: process.env })
  const scores = ssim(file, raw, 1280, 720, '25')
  expect(scores).toHaveLength(125)
  expect(Math.min(...scores)).toBeGreaterThanOrEqual(0.98)

  const probed = probe(file)
  expect(probed.video).toEqual({ frames: 125, start: 0, width: 1280, height: 720 })
  expect(Math.abs(probed.audio.seconds - 5)).toBeLessThanOrEqual(1024 / 48_000)

  // The flash and the beep of the same moment: no more than 10 ms apart.
  const means = lumaMeans(file)
  const heard = samples(file)
  for (let second = 1; second < 5; second++) {
    const frame = means
      .slice(second * 25 - 5, second * 25 + 6)
      .reduce((best, value, i, list) => (value > list[best]! ? i : best), 0)
    const seen = (second * 25 - 5 + frame) / 25
    const from = Math.round((second - 0.2) * 48_000)
    const beep = from + heard.subarray(from, from + 19_200).findIndex((value) => Math.abs(value) > 0.2)
    expect(Math.abs(beep / 48_000 - seen), `second ${second}`).toBeLessThanOrEqual(0.01)
  }
})
