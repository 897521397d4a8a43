import { join } from 'node:path'
import type { Page } from '@playwright/test'
import { parts, piece, type Studio } from '../e2e/tools/api'
import { measureDesk, pictureShown } from './desk'
import { longFootage } from './footage'
import { median } from './table'

/** How soon footage is seen: from the end of its upload to its first picture, its strip, and any frame of it. */
const MINUTES = 10
const PLACES = [17, 301, 96, 555, 420, 233, 66, 508]

interface Strip {
  times: number[]
}

/** Seconds until a source has a film strip of so many pictures, from now. */
async function untilStrip(api: Studio, id: string, asset: string, began: number, most: number): Promise<number> {
  for (;;) {
    const { sources } = await api.call<{ sources: Record<string, { strip: Strip | null }> }>(`/projects/${id}/sources`)
    if ((sources[asset]?.strip?.times.length ?? 0) >= most) return (performance.now() - began) / 1000
    await new Promise((resolve) => setTimeout(resolve, 50))
  }
}

/** Milliseconds until the viewer shows a place that is typed. */
async function soughtIn(page: Page, second: number): Promise<number> {
  const field = page.getByLabel('Position. Type a place and press Enter.')
  await field.fill(`${second}s`)
  const before = await page.getByLabel('Viewer', { exact: true }).getAttribute('data-shown-tick')
  const began = performance.now()
  await field.press('Enter')
  await page.waitForFunction(
    ([tick, wanted]) => {
      const now = document.querySelector('[data-shown-tick]')?.getAttribute('data-shown-tick')
      return now !== tick && Math.abs(Number(now) / 705_600_000 - Number(wanted)) < 0.1
    },
    [before, String(second)] as const,
    { polling: 10 },
  )
  return performance.now() - began
}

await measureDesk('seen at once', 4877, async ({ api, page, origin, data }, rows) => {
  const x264 = (more: string) => `-c:v libx264 -preset ultrafast -pix_fmt yuv420p ${more}`.split(' ')
  const phone = x264('-b:v 60M -maxrate 70M -bufsize 60M -g 60')
  const long = longFootage(join(data, 'long.mp4'), '3840x2160', 60, phone, MINUTES * 60)
  const id = await api.createProject('Long', 1920, 1080, { num: 30, den: 1 })
  const asset = await api.upload(id, long)
  const began = performance.now()
  rows.push([
    `4K60, ${MINUTES} minutes: first picture after the upload, s (2)`,
    await untilStrip(api, id, asset, began, 1),
  ])
  rows.push(['… strip over the whole length, s (10)', await untilStrip(api, id, asset, began, 40)])
  const { track } = parts(await api.call(`/projects/${id}`))
  await api.edit(id, {
    type: 'place',
    mode: 'free',
    pieces: [piece(track('Picture 1'), asset, null, 0, MINUTES * 60 - 1)],
  })
  await page.goto(`${origin}/projects/${id}`)
  await pictureShown(page)
  const times: number[] = []
  for (const place of PLACES) times.push(await soughtIn(page, place))
  rows.push(['… any frame before its proxy is there, median s (1.5)', median(times) / 1000])

  // Ten bits of H.265 as phones film, a keyframe a second: the browser does not decode it, frames come from the server.
  const tenBits = '-c:v libx265 -preset ultrafast -x265-params log-level=error:keyint=30 -pix_fmt yuv420p10le'.split(
    ' ',
  )
  const deep = longFootage(join(data, 'deep.mp4'), '3840x2160', 30, [...tenBits, '-b:v', '30M'], 120)
  const tens = await api.createProject('Ten bits', 1920, 1080, { num: 30, den: 1 })
  const deepAsset = await api.upload(tens, deep)
  await untilStrip(api, tens, deepAsset, performance.now(), 1)
  const placed = parts(await api.call(`/projects/${tens}`))
  const whole = piece(placed.track('Picture 1'), deepAsset, null, 0, 119)
  await api.edit(tens, { type: 'place', mode: 'free', pieces: [whole] })
  await page.goto(`${origin}/projects/${tens}`)
  await pictureShown(page)
  const later: number[] = []
  for (const place of PLACES) later.push(await soughtIn(page, (place / 5) | 0))
  rows.push(['10-bit H.265, 4K: any frame before its proxy is there, median s (2)', median(later) / 1000])

  const other = await api.createProject('Short', 1920, 1080, { num: 30, den: 1 })
  // As phones film: 24 Mbit/s, a keyframe every two seconds.
  const filmed = x264('-b:v 24M -maxrate 30M -bufsize 24M -g 60')
  const short = longFootage(join(data, 'short.mp4'), '1920x1080', 30, filmed, 60)
  const hd = await api.upload(other, short)
  await untilStrip(api, other, hd, performance.now(), 1)
  const found = parts(await api.call(`/projects/${other}`))
  await api.edit(other, { type: 'place', mode: 'free', pieces: [piece(found.track('Picture 1'), hd, null, 0, 59)] })
  await page.goto(`${origin}/projects/${other}`)
  await pictureShown(page)
  await page.locator('body').click({ position: { x: 640, y: 6 } })
  await page.keyboard.press('l')
  await page.waitForTimeout(1500)
  const shown = async () => Number(await page.getByLabel('Viewer', { exact: true }).getAttribute('data-frames-shown'))
  const [from, since] = [await shown(), performance.now()]
  await page.waitForTimeout(5000)
  rows.push([
    '1080p30 from the original, while other proxies are made: shown frames a second (24)',
    ((await shown()) - from) / ((performance.now() - since) / 1000),
  ])
})
