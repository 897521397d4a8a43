import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect as patient, test, type Page } from '@playwright/test'
import { parts, piece, SECOND, Studio, type ProjectState } from './tools/api'
import { ffmpeg, folder } from './tools/media'

/** Frames are made, and music is listened to, in seconds. */
const expect = patient.configure({ timeout: 60_000 })

type Project = ProjectState['project'] & {
  clips: Record<string, { id: string; trackId: string; start: number; length: number; group: string | null }>
}

const WIDTH = 320
const HEIGHT = 180

/** Where the bright bar is in each frame of a file, in pixels from the left. */
function bars(path: string): number[] {
  const raw = ffmpeg('-i', path, ...'-fps_mode passthrough -f rawvideo -pix_fmt gray -'.split(' '))
  return Array.from({ length: raw.length / (WIDTH * HEIGHT) }, (_, n) => {
    let [sum, weight] = [0, 0]
    for (let x = 0; x < WIDTH; x++) {
      const over = raw[n * WIDTH * HEIGHT + (HEIGHT / 2) * WIDTH + x]! - 60
      if (over > 0) [sum, weight] = [sum + over * x, weight + over]
    }
    return sum / weight
  })
}

const opened = (page: Page) =>
  page.waitForFunction(
    () => Number(document.querySelector('[data-shown-tick]')?.getAttribute('data-shown-tick') ?? -1) >= 0,
  )

test('slow motion has frames made between its own, seen on the desk and in the file', async ({ page, baseURL }) => {
  const studio = new Studio(baseURL!)
  const dir = folder()
  const luma = 'if(lt(abs(X-20-N*4),10)*lt(abs(Y-90),30),220,40)'
  const bar = `nullsrc=s=${WIDTH}x${HEIGHT}:r=30,geq=lum='${luma}':cb=128:cr=128`
  ffmpeg(
    '-f',
    'lavfi',
    '-i',
    bar,
    ...'-frames:v 60 -c:v libx264 -qp 4 -pix_fmt yuv420p'.split(' '),
    join(dir, 'bar.mp4'),
  )
  const id = await studio.createProject('Slow', WIDTH, HEIGHT, { num: 30, den: 1 })
  const source = await studio.upload(id, join(dir, 'bar.mp4'))
  const { reelId, track } = parts(await studio.ready(id, [source]))
  const shot = piece(track('Picture 1'), source, null, 0, 1, 0.5)
  await studio.edit(
    id,
    { type: 'place', mode: 'free', pieces: [shot] },
    { type: 'setSpeed', clipIds: [shot.clipId], speed: 0.25 },
  )
  await page.goto(`/projects/${id}`)
  await opened(page)
  await page.locator(`[data-clip="${shot.clipId}"]`).click({ position: { x: 30, y: 20 } })
  const speed = page.getByRole('region', { name: 'Speed', exact: true })
  await speed.getByRole('button', { name: 'Slow motion' }).click()
  await page.getByRole('option', { name: 'Make frames between' }).click()
  await expect(speed.getByText('The frames between are made.')).toBeVisible()

  // The viewer shows one of them: bright where the bar has got to, 15.25 frames in.
  await page.getByLabel(/^Position\./).fill('1f')
  await page.getByLabel(/^Position\./).press('Enter')
  const [picture] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save this frame as a picture' }).click(),
  ])
  await picture.saveAs(join(dir, 'shown.png'))
  ffmpeg('-i', join(dir, 'shown.png'), '-frames:v', '1', join(dir, 'shown.mp4'))
  expect(Math.abs(bars(join(dir, 'shown.mp4'))[0]! - (20 + 4 * 15.25))).toBeLessThan(1)

  const settings = {
    width: WIDTH,
    height: HEIGHT,
    rate: { num: 30, den: 1 },
    quality: 'best',
    range: null,
    sound: false,
  }
  const { id: renderId } = await studio.render(id, reelId, 'slow', settings)
  const file = join(dir, 'slow.mp4')
  writeFileSync(file, await studio.file(`/api/renders/${renderId}/file`))
  const places = bars(file)
  expect(places).toHaveLength(120)
  // A pixel further in every frame.
  for (const [n, place] of places.entries()) expect(Math.abs(place - (20 + 4 * 15 + n)), `${n}`).toBeLessThan(1)
})

test('music is brought to a length by hand, and saved as a file', async ({ page, baseURL }) => {
  const studio = new Studio(baseURL!)
  const dir = folder()
  // A bar of two seconds over and over: a chord that changes each second, a click on every beat.
  const tones = '0.2*sin(2*PI*t*if(lt(mod(t,2),1),220,330))+0.5*random(0)*exp(-40*mod(t,0.5))'
  ffmpeg('-f', 'lavfi', '-i', `aevalsrc=exprs='${tones}':s=48000:d=24`, join(dir, 'song.wav'))
  const id = await studio.createProject('Song', 640, 360, { num: 30, den: 1 })
  const song = await studio.upload(id, join(dir, 'song.wav'))
  const { track } = parts(await studio.ready(id, [song]))
  const music = piece(track('Music'), song, 0, 0, 24, 0)
  await studio.edit(id, { type: 'place', mode: 'free', pieces: [music] })
  await page.goto(`/projects/${id}`)
  await page.locator(`[data-clip="${music.clipId}"]`).click({ position: { x: 60, y: 6 } })
  const section = page.getByRole('region', { name: 'Music to a length' })
  await section.getByLabel(/^As long as/).fill('16')
  await section.getByLabel(/^As long as/).press('Enter')
  await section.getByRole('button', { name: 'Bring it to that' }).click()
  await expect(page.getByText('where it sounds alike')).toBeVisible()
  const clips = async () => {
    const { project } = await studio.call<{ project: Project }>(`/projects/${id}`)
    return Object.values(project.clips).sort((a, b) => a.start - b.start)
  }
  await expect.poll(async () => (await clips()).length).toBe(2)
  const [a, b] = await clips()
  expect((a!.length + b!.length) / SECOND).toBeGreaterThan(15.1)
  expect((a!.length + b!.length) / SECOND).toBeLessThanOrEqual(16)
  expect(a!.group).toBe(b!.group)

  const loudness = page.getByRole('region', { name: 'Loudness' })
  await loudness.getByRole('button', { name: 'Sound file' }).click()
  await page.getByRole('option', { name: /FLAC/ }).click()
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    loudness.getByRole('button', { name: 'Save', exact: true }).click(),
  ])
  expect(download.suggestedFilename()).toBe('song.flac')
  expect(
    readFileSync((await download.path())!)
      .subarray(0, 4)
      .toString('latin1'),
  ).toBe('fLaC')
})
