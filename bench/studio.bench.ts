import { closeSync, ftruncateSync, openSync, readFileSync, writeSync } from 'node:fs'
import { join } from 'node:path'
import type { Page } from '@playwright/test'
import { parts, piece } from '../e2e/tools/api'
import { loadDemo } from '../scripts/dusk/demo'
import { measureDesk, pictureShown, testFootage } from './desk'
import { median } from './table'

/** The built studio in a headless browser: how fast pages open, play and scrub, and what an upload takes of memory. */
await measureDesk(
  'studio',
  4872,
  async ({ api, client, page, origin, data, databaseUrl, studioPid }, rows) => {
    const viewer = (target: Page) => target.getByLabel('Viewer', { exact: true })
    const dataOf = async (name: string) => Number(await viewer(page).getAttribute(`data-${name}`))

    /** Frames shown a second while a project plays, drawn by one thread or by two. */
    async function framesShown(projectId: string, threads: number): Promise<number> {
      await page.goto(`${origin}/projects`)
      await page.evaluate((count) => localStorage.setItem('drawing-threads', String(count)), threads)
      await page.goto(`${origin}/projects/${projectId}`)
      await pictureShown(page)
      await page.keyboard.press('Space')
      await page.waitForTimeout(2500)
      const [shown, began] = [await dataOf('frames-shown'), performance.now()]
      await page.waitForTimeout(7000)
      const rate = ((await dataOf('frames-shown')) - shown) / ((performance.now() - began) / 1000)
      await page.keyboard.press('Space')
      return rate
    }

    /** The same for one thread and for two, in turns, so that what else the machine does falls on both: medians. */
    async function bothWays(projectId: string): Promise<[number, number]> {
      const rates: [number[], number[]] = [[], []]
      for (let round = 0; round < 3; round++)
        for (const threads of [1, 2] as const) rates[threads - 1]!.push(await framesShown(projectId, threads))
      return [median(rates[0]), median(rates[1])]
    }

    async function openings(path: string, ready: () => Promise<unknown>): Promise<number> {
      const times: number[] = []
      for (let i = 0; i < 5; i++) {
        await page.goto('about:blank')
        const began = performance.now()
        await page.goto(origin + path, { waitUntil: 'commit' })
        await ready()
        times.push(performance.now() - began)
      }
      return median(times)
    }

    await loadDemo(client, databaseUrl)
    const { projects } = await api.call<{ projects: { id: string; name: string }[] }>('/projects')
    const demo = projects.find((entry) => entry.name.startsWith('Lantern'))!.id
    const state = await api.call<{ project: { assets: object } }>(`/projects/${demo}`)
    await api.ready(demo, Object.keys(state.project.assets))
    rows.push([
      'first page, until it can be used, ms (1500 at most)',
      await openings('/', () => page.getByRole('link', { name: /Open Lantern/ }).waitFor()),
    ])
    rows.push([
      'desk with the demo, until its picture is shown, ms (3000 at most)',
      await openings(`/projects/${demo}`, () => pictureShown(page)),
    ])

    // Two layers, the upper one sized, in reels and from sources of 30 and of 60 frames a second.
    let id = ''
    for (const fps of [60, 30]) {
      const source = testFootage(join(data, `source-${fps}.mp4`), '1280x720', fps, 20)
      id = await api.createProject(`Two layers at ${fps}`, 1920, 1080, { num: fps, den: 1 })
      const asset = await api.upload(id, source)
      const { track } = parts(await api.ready(id, [asset]))
      const upper = piece(track('Picture 2'), asset, null, 0, 19, 1)
      await api.edit(
        id,
        { type: 'place', mode: 'free', pieces: [piece(track('Picture 1'), asset, null, 0, 20), upper] },
        { type: 'setParams', clipIds: [upper.clipId], set: { position: [300, 150], size: 60 } },
      )
      const [one, two] = await bothWays(id)
      rows.push(
        [`two layers at 960 × 540, reel of ${fps}, frames shown a second`, one],
        ['… with two threads drawing', two],
      )
    }
    // Two layers, a title whose letters move, and a transition that runs all the time.
    for (const fps of [30, 60]) {
      const source = join(data, `source-${fps}.mp4`)
      const busy = await api.createProject(`Two layers, title, transition at ${fps}`, 1920, 1080, { num: fps, den: 1 })
      const asset = await api.upload(busy, source)
      const { reelId, track } = parts(await api.ready(busy, [asset]))
      const shots = [0, 1, 2, 3, 4].map((n) => piece(track('Picture 1'), asset, null, n * 4, 4, 4))
      const upper = piece(track('Picture 2'), asset, null, 0, 16, 1)
      const joins = shots.slice(1).map((right, n) => ({
        id: crypto.randomUUID(),
        leftId: shots[n]!.clipId,
        rightId: right.clipId,
        before: 705_600_000 * 1.9,
        after: 705_600_000 * 1.9,
        kind: 'wipe',
        settings: {},
        missing: 'hold',
      }))
      const move = {
        move: 'ripple',
        length: 705_600_000 * 2,
        unit: 'letter',
        order: 'forward',
        overlap: 60,
        settings: {},
      }
      const trackId = crypto.randomUUID()
      const title = {
        kind: 'title',
        clipId: crypto.randomUUID(),
        trackId,
        start: 0,
        length: 705_600_000 * 20,
        title: {
          text: 'Lantern night',
          style: { size: 160, letterShadow: 60 },
          runs: [],
          in: null,
          out: null,
          during: move,
        },
      }
      await api.edit(
        busy,
        { type: 'place', mode: 'free', pieces: [...shots, upper] },
        { type: 'setParams', clipIds: [upper.clipId], set: { position: [500, 250], size: 40 } },
        { type: 'addTransitions', transitions: joins },
        { type: 'addGenerated', mode: 'free', newTrack: { trackId, reelId }, generated: [title] },
      )
      const [one, two] = await bothWays(busy)
      rows.push(
        [
          `two layers, a title and a transition, reel of ${fps}, frames shown a ` +
            `second${fps === 30 ? ' (24 at least)' : ''}`,
          one,
        ],
        ['… with two threads drawing', two],
      )
    }
    await page.goto(`${origin}/projects/${demo}`)
    await pictureShown(page)
    await page.keyboard.press('Space')
    await page.waitForTimeout(34_000)
    await page.keyboard.press('Space')
    rows.push(
      ['demo played, frames shown', await dataOf('frames-shown')],
      ['… dropped', await dataOf('frames-dropped')],
    )
    rows.push(
      ['… more than a frame late', await dataOf('frames-late')],
      ['… times the sound ran dry', await dataOf('underruns')],
    )
    await page.goto(`${origin}/projects/${id}`)
    await pictureShown(page)
    const waits: number[] = []
    for (let i = 0; i < 40; i++) {
      const frame = 1 + Math.floor((((i * 7919) % 1000) / 1000) * 560)
      const before = await viewer(page).getAttribute('data-shown-tick')
      const position = page.getByLabel(/^Position\./)
      await position.fill(`${frame}f`)
      await position.press('Enter')
      await page.waitForFunction(
        (old) => document.querySelector('[data-shown-tick]')?.getAttribute('data-shown-tick') !== old,
        before,
      )
      waits.push(await dataOf('shown-ms'))
    }
    rows.push(['scrub to a random place, two layers, ms until shown (80 at most)', median(waits)])

    // A 2 GB file; its content does not matter for how it is received.
    const big = join(data, 'big.bin')
    const handle = openSync(big, 'w')
    writeSync(handle, 'not a film')
    ftruncateSync(handle, 2 * 1024 ** 3)
    closeSync(handle)
    const resident = () => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${studioPid}/status`, 'utf8'))![1]) / 1024
    const start = resident()
    let highest = 0
    const watch = setInterval(() => (highest = Math.max(highest, resident())), 50)
    await api.upload(id, big)
    clearInterval(watch)
    rows.push(['2 GB upload, memory of the server above its start, MB (100 at most)', highest - start])
  },
  { width: 1920, height: 1200 },
)
