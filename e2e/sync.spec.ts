import { execFileSync } from 'node:child_process'
import { join } from 'node:path'
import { expect, test } from '@playwright/test'
import { parts, piece, SECOND, Studio } from './tools/api'
import { folder } from './tools/media'

/** Seconds that are watched. */
const WATCHED = process.env.DUSK_LONG ? 61 : 13

test('picture and sound stay together: what is shown is what is heard', async ({ page, baseURL }) => {
  const studio = new Studio(baseURL!)
  const path = join(folder(), 'minute.mp4')
  execFileSync('ffmpeg', [
    '-v',
    'error',
    '-f',
    'lavfi',
    '-i',
    'testsrc2=s=320x180:r=25:d=64',
    '-f',
    'lavfi',
    '-i',
    'sine=440:d=64',
    '-c:v',
    'libx264',
    '-preset',
    'ultrafast',
    '-pix_fmt',
    'yuv420p',
    '-c:a',
    'aac',
    path,
  ])
  const id = await studio.createProject('A minute', 640, 360, { num: 25, den: 1 })
  const asset = await studio.upload(id, path)
  const { track } = parts(await studio.ready(id, [asset]))
  await studio.edit(id, {
    type: 'place',
    mode: 'free',
    pieces: [piece(track('Picture 1'), asset, null, 0, 63), piece(track('Voice'), asset, 0, 0, 63)],
  })
  await page.goto(`/projects/${id}`)
  const viewer = page.getByLabel('Viewer', { exact: true })
  await expect(viewer).not.toHaveAttribute('data-shown-tick', '-1')
  await page.keyboard.press('Space')
  await expect(viewer).toHaveAttribute('data-playing', 'true')
  // Every picture is compared with what is heard at the moment it appears, in the worker itself.
  const heard = async () => {
    const clock = await page.getByLabel(/^Position\./).inputValue()
    const [h, m, s, f] = clock.split(/[:;]/).map(Number)
    return h! * 3600 + m! * 60 + s! + f! / 25
  }
  await expect.poll(heard, { timeout: 300_000, intervals: [1000] }).toBeGreaterThan(WATCHED)
  await page.keyboard.press('Space')
  await expect(viewer).toHaveAttribute('data-playing', 'false')
  const stat = async (name: string) => Number(await viewer.getAttribute(`data-${name}`))
  const [shown, dropped, late, dry] = await Promise.all(
    ['frames-shown', 'frames-dropped', 'frames-late', 'underruns'].map(stat),
  )
  console.log(`      ${shown} shown, ${dropped} passed over, ${late} more than a frame late, sound dry ${dry} times`)
  // Nothing runs away: late pictures are single ones, on a machine that also does other things, never the rule.
  expect(shown! + dropped!).toBeGreaterThan((WATCHED - 1) * 25)
  expect(late! / shown!).toBeLessThan(0.05)
  // Where it stopped the picture is the one of the playhead, to the frame.
  const at = Math.round((await heard()) * 25)
  await expect.poll(async () => Math.round(((await stat('shown-tick')) / SECOND) * 25)).toBe(at)
})
