import { execFileSync } from 'node:child_process'
import { copyFile, mkdir } from 'node:fs/promises'
import { statSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { examine, FolderStorage, hashFile, x264Args } from '@dusk/media'
import { renderReel } from '@dusk/renderer/render/renderReel'
import type { CommandInput } from '@dusk/timeline'
import { parts, piece } from '../e2e/tools/api'
import { measureDesk, pictureShown, testFootage } from './desk'
import { median } from './table'

/** A split screen of nine videos: how it plays, forwards and backwards, and what its render takes beside ffmpeg's. */
const RATE = { num: 30, den: 1 }
const SECONDS = 12
const RENDERED = 12
const CELL = { width: 640, height: 360 }

await measureDesk('nine videos at once', 4875, async ({ api, page, origin, data }, rows) => {
  const source = testFootage(join(data, 'source.mp4'), '1280x720', 30, 30)
  const id = await api.createProject('Nine cells', 1920, 1080, RATE)
  const asset = await api.upload(id, source)
  const { reelId } = parts(await api.ready(id, [asset]))
  const trackIds = Array.from({ length: 9 }, () => crypto.randomUUID())
  const pieces = trackIds.map((trackId, n) => piece(trackId, asset, null, 0, SECONDS, n * 2))
  const cells = pieces.map(({ clipId }, n): CommandInput => ({
    type: 'setParams',
    clipIds: [clipId],
    set: { position: [((n % 3) - 1) * CELL.width, (Math.floor(n / 3) - 1) * CELL.height], size: 100 / 3 },
  }))
  await api.edit(
    id,
    ...trackIds.map((trackId): CommandInput => ({ type: 'addTrack', reelId, trackId, purpose: 'picture' })),
    { type: 'place', mode: 'free', pieces },
    ...cells,
  )

  const viewer = page.getByLabel('Viewer', { exact: true })
  const shown = async () => Number(await viewer.getAttribute('data-frames-shown'))
  /** Frames shown a second over some seconds of play that a key began. */
  const rate = async (key: string) => {
    await page.keyboard.press(key)
    await page.waitForTimeout(1500)
    const [before, began] = [await shown(), performance.now()]
    await page.waitForTimeout(5000)
    const found = ((await shown()) - before) / ((performance.now() - began) / 1000)
    await page.keyboard.press('k')
    return found
  }
  await page.goto(`${origin}/projects/${id}`)
  await pictureShown(page)
  const forwards: number[] = []
  const backwards: number[] = []
  for (let i = 0; i < 3; i++) {
    await page.keyboard.press('Home')
    forwards.push(await rate('l'))
    await page.keyboard.press('End')
    await page.waitForTimeout(500)
    backwards.push(await rate('j'))
  }
  rows.push(['nine videos, frames shown a second at 960 × 540 (15 at least)', median(forwards)])
  rows.push(['… backwards', median(backwards)])

  const single = await api.createProject('One video', 1920, 1080, RATE)
  const own = await api.upload(single, source)
  const { track } = parts(await api.ready(single, [own]))
  await api.edit(single, { type: 'place', mode: 'free', pieces: [piece(track('Picture 1'), own, null, 0, 20)] })
  await page.goto(`${origin}/projects/${single}`)
  await pictureShown(page)
  const back: number[] = []
  for (let i = 0; i < 3; i++) {
    await page.keyboard.press('End')
    await page.waitForTimeout(500)
    back.push(await rate('j'))
  }
  rows.push(['one video backwards, frames shown a second (20 at least)', median(back)])

  const { project } = await api.call<{ project: Parameters<typeof renderReel>[0]['project'] }>(`/projects/${id}`)
  const hash = await hashFile(source)
  const metadata = await examine(source, statSync(source).size)
  const ours = async (run: number) => {
    const storage = new FolderStorage(join(data, `store-${run}`))
    await mkdir(dirname(storage.original(hash)), { recursive: true })
    await copyFile(source, storage.original(hash))
    const began = performance.now()
    await renderReel({
      project,
      reelId,
      settings: {
        width: 1920,
        height: 1080,
        rate: RATE,
        quality: 'good',
        range: { from: 0, to: RENDERED * 705_600_000 },
        sound: false,
      },
      book: new Map([[asset, { hash, metadata }]]),
      storage,
      out: join(data, `ours-${run}.mp4`),
    })
    return performance.now() - began
  }
  const stacked = () => {
    const inputs = pieces.flatMap((_, n) => ['-ss', String(n * 2), '-t', String(RENDERED), '-i', source])
    const sized = pieces.map((_, n) => `[${n}:v]scale=${CELL.width}:${CELL.height}:flags=bicubic[c${n}]`).join(';')
    const places = pieces.map((_, n) => `${(n % 3) * CELL.width}_${Math.floor(n / 3) * CELL.height}`).join('|')
    const graph = `${sized};${pieces.map((_, n) => `[c${n}]`).join('')}xstack=inputs=9:layout=${places}[v]`
    const encoding = x264Args({ rate: RATE, crf: 20, preset: 'veryfast' })
    const began = performance.now()
    const made = ['-filter_complex', graph, '-map', '[v]', ...encoding, join(data, 'stack.mp4')]
    execFileSync('ffmpeg', ['-v', 'error', '-y', ...inputs, ...made])
    return performance.now() - began
  }
  const runs: [number, number][] = []
  await page.goto('about:blank')
  for (let i = 0; i < 3; i++) runs.push([stacked(), await ours(i)])
  const [theirs, render] = [median(runs.map((run) => run[0])) / 1000, median(runs.map((run) => run[1])) / 1000]
  rows.push([`ffmpeg's stack of the same ${RENDERED} s, s`, theirs], ['render, s', render])
  rows.push(['render to the stack (1.5 at most)', render / theirs])
})
