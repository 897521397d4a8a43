import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as wait } from 'node:timers/promises'
import type { Page } from '@playwright/test'
import type { CommandInput } from '@dusk/timeline'
import { parts, Studio } from '../e2e/tools/api'
import type { StudioClient } from '../scripts/dusk/client'
import { browserState } from '../scripts/dusk/enter'
import { openBrowser } from '../scripts/dusk/browser'
import { buildRenderer, buildStudio } from '../scripts/dusk/build'
import {
  end,
  localStudio,
  openDatabase,
  serviceEnv,
  startStudio,
  startWorker,
  waitFor,
} from '../scripts/dusk/processes'
import { table } from './table'

/** The built studio with a database, a worker and a page of a headless browser, for measuring. */
export interface BenchDesk {
  data: string
  origin: string
  databaseUrl: string
  api: Studio
  client: StudioClient
  page: Page
  studioPid: number
  workerPid: number
  /** Starts another worker beside the first. @returns what ends it */
  addWorker(): () => Promise<void>
  /** Errors on the page's console. */
  errors: string[]
}

/** Starts everything, measures, prints the rows and takes everything away again, whatever happens. */
export async function measureDesk(
  title: string,
  port: number,
  measure: (desk: BenchDesk, rows: (string | number)[][]) => Promise<void>,
  viewport = { width: 1920, height: 1080 },
): Promise<never> {
  const data = mkdtempSync(join(tmpdir(), 'dusk-bench-'))
  const client = localStudio(data, port)
  const { origin } = client
  const cluster = await openDatabase(data, false)
  await Promise.all([buildStudio(), buildRenderer()])
  const env = serviceEnv(cluster, data, port, null)
  const studio = startStudio(env)
  await waitFor(client, studio)
  const worker = startWorker(env)
  const browser = await openBrowser('--js-flags=--expose-gc')
  const page = await browser.newPage({ viewport, storageState: await browserState(client) })
  const errors: string[] = []
  page.on('console', (message) => message.type() === 'error' && errors.push(message.text()))
  page.on('pageerror', (error) => errors.push(error.message))
  const rows: (string | number)[][] = []
  try {
    const desk = {
      data,
      origin,
      databaseUrl: cluster.url,
      api: new Studio(origin, client.reach.key),
      client,
      page,
      studioPid: studio.pid!,
      workerPid: worker.pid!,
      addWorker: () => {
        const other = startWorker(env)
        return () => end(other)
      },
      errors,
    }
    await measure(desk, rows)
    rows.push(['errors on the console', errors.length])
  } finally {
    await browser.close()
    await Promise.all([end(worker), end(studio)])
    await cluster.stop()
    rmSync(data, { recursive: true, force: true })
    table([title, ''], rows)
    if (errors.length > 0) console.log(errors.slice(0, 5).join('\n'))
  }
  process.exit(0)
}

/** Makes a file of moving test pictures. */
export function testFootage(path: string, size: string, fps: number, seconds: number, sound = false): string {
  const made = `testsrc2=s=${size}:r=${fps}:d=${seconds}`
  const encoding = ['-c:v', 'libx264', '-preset', 'veryfast', '-pix_fmt', 'yuv420p', '-colorspace', 'bt709']
  // Wind that swells, and two notes: as hard to encode as what cameras hear.
  const wind = `anoisesrc=c=pink:a=0.3:r=48000:d=${seconds}:seed=1,tremolo=f=0.4:d=0.9`
  const notes = `aevalsrc='0.15*sin(2*PI*220*t)+0.1*sin(2*PI*659*t)*lt(mod(t,1),0.4)':s=48000:d=${seconds}`
  const heard = [
    '-f',
    'lavfi',
    '-i',
    wind,
    '-f',
    'lavfi',
    '-i',
    notes,
    '-filter_complex',
    '[1][2]amix=2,aformat=cl=stereo',
  ]
  execFileSync('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', made, ...(sound ? heard : []), ...encoding, path])
  return path
}

/**
 * Renders a reel and waits for its file.
 * @returns its id, seconds that it took, and how many of them about went by in each stage
 * @throws in words when it fails
 */
export async function timedRender(
  api: Studio,
  projectId: string,
  asked: { reelId: string; name: string; settings: object },
): Promise<{ id: string; took: number; stages: Record<string, number> }> {
  const { id } = await api.call<{ id: string }>(`/projects/${projectId}/renders`, 'POST', asked)
  const stages: Record<string, number> = {}
  let last = performance.now()
  for (;;) {
    await wait(100)
    type Row = {
      id: string
      state: string
      message: string
      report: { took: number }
      progress: { stage: string } | null
    }
    const { renders } = await api.call<{ renders: Row[] }>('/renders')
    const row = renders.find((entry) => entry.id === id)!
    if (row.state === 'failed') throw new Error(row.message)
    if (row.state === 'ready') return { id, took: row.report.took, stages }
    const now = performance.now()
    const stage = row.state === 'waiting' ? 'waiting' : (row.progress?.stage ?? 'planning')
    stages[stage] = (stages[stage] ?? 0) + (now - last) / 1000
    last = now
  }
}

const SECOND = 705_600_000

/** A project of many one-second clips on many tracks, with gaps between them. */
export async function manyClips({ api, data }: BenchDesk, tracks: number, clips: number) {
  const id = await api.createProject('Five thousand clips', 1920, 1080, { num: 30, den: 1 })
  const asset = await api.upload(id, testFootage(join(data, 'source.mp4'), '320x180', 30, 20))
  const { reelId } = parts(await api.ready(id, [asset]))
  const trackIds = Array.from({ length: tracks }, () => crypto.randomUUID())
  await api.edit(
    id,
    ...trackIds.map((trackId): CommandInput => ({ type: 'addTrack', reelId, trackId, purpose: 'picture' })),
  )
  const each = Math.ceil(clips / tracks)
  const pieces = trackIds
    .flatMap((trackId, t) =>
      Array.from({ length: each }, (_, i) => ({
        clipId: crypto.randomUUID(),
        trackId,
        assetId: asset,
        stream: null,
        start: (i * 2 + (t % 3)) * SECOND,
        length: SECOND,
        source: ((i + t) % 15) * SECOND,
        link: null,
      })),
    )
    .slice(0, clips)
  for (let i = 0; i < pieces.length; i += 1000)
    await api.edit(id, { type: 'place', mode: 'free', pieces: pieces.slice(i, i + 1000) })
  return { id, pieces }
}

/** Milliseconds that commands of a kind took on the page. */
export const commandTimes = (page: Page, type: string): Promise<number[]> =>
  page.evaluate(
    (wanted) =>
      performance
        .getEntriesByName('command')
        .filter((entry) => (entry as PerformanceMeasure).detail === wanted)
        .map((entry) => entry.duration),
    type,
  )

/** Bytes that the page's scripts hold, rubbish collected first. */
export async function pageHeap(page: Page): Promise<number> {
  await page.evaluate(() => (window as unknown as { gc?: () => void }).gc?.())
  return page.evaluate(() => (performance as unknown as { memory: { usedJSHeapSize: number } }).memory.usedJSHeapSize)
}

/** Where Node's inspector listens once it is told to. */
const INSPECTOR = 'http://127.0.0.1:9229/json'

/**
 * Megabytes that a Node process holds for what it still needs, rubbish collected first: by the inspector that it opens
 * when it is told to.
 */
export async function liveMemory(page: Page, pid: number): Promise<number> {
  process.kill(pid, 'SIGUSR1')
  let address: string | undefined
  for (let i = 0; i < 50 && !address; i++) {
    await new Promise((resolve) => setTimeout(resolve, 100))
    const targets = await fetch(INSPECTOR).then(
      (answer) => answer.json() as Promise<unknown>,
      () => [],
    )
    address = (targets as { webSocketDebuggerUrl: string }[])[0]?.webSocketDebuggerUrl
  }
  if (!address) throw new Error('The inspector of the studio did not open.')
  // Node 20 has no WebSocket of its own, but a page has.
  const blank = await page.context().browser()!.newPage()
  try {
    return await blank.evaluate(async (url) => {
      const socket = new WebSocket(url)
      await new Promise((resolve) => (socket.onopen = resolve))
      const bytes = await new Promise<number>((resolve) => {
        socket.onmessage = ({ data }) => {
          const { id, result } = JSON.parse(data as string) as { id?: number; result: { result: { value: number } } }
          const expression = 'process.memoryUsage().heapUsed + process.memoryUsage().external'
          if (id === 1) socket.send(JSON.stringify({ id: 2, method: 'Runtime.evaluate', params: { expression } }))
          else if (id === 2) resolve(result.result.value)
        }
        socket.send(JSON.stringify({ id: 1, method: 'HeapProfiler.collectGarbage' }))
      })
      socket.close()
      return bytes / 1024 ** 2
    }, address)
  } finally {
    await blank.close()
  }
}

/** Waits until the viewer has drawn its first picture. */
export const pictureShown = (page: Page) =>
  page.waitForFunction(
    () => Number(document.querySelector('[data-shown-tick]')?.getAttribute('data-shown-tick') ?? -1) >= 0,
  )
