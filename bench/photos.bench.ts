import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import sharp from 'sharp'
import { connect } from '@dusk/store'
import { liveMemory, measureDesk } from './desk'

/** An evening's photos: how soon they are seen, how long reading them in takes, and what is written for them. */
const PHOTOS = 200
/** Files sent side by side, as the page does. */
const PARALLEL = 3
const SIZE = { width: 4000, height: 3000 }
/** Pictures that differ in more than a few bytes. */
const DISTINCT = 8

/** Photos of 12 MP at night: the noise of a small sensor, somewhat smoothed, as JPEG of a phone's quality. */
async function takePhotos(dir: string, from: number): Promise<string[]> {
  const made: Buffer[] = []
  for (let n = 0; n < DISTINCT; n++) {
    const noise = { type: 'gaussian' as const, mean: 110 + n * 4, sigma: 20 }
    const scene = await sharp({ create: { ...SIZE, channels: 3, background: '#808080', noise } })
      .blur(0.5)
      .jpeg({ quality: 92 })
      .toBuffer()
    made.push(scene)
  }
  return Array.from({ length: PHOTOS }, (_, i) => {
    const n = from + i
    const path = join(dir, `lantern-${String(n).padStart(3, '0')}.jpg`)
    const bytes = made[n % DISTINCT]!
    // A comment makes each a file of its own (ITU-T T.81, B.2.4.5).
    const comment = Buffer.from(`photo ${n}`)
    const segment = Buffer.from([0xff, 0xfe, 0, comment.length + 2])
    writeFileSync(path, Buffer.concat([bytes.subarray(0, 2), segment, comment, bytes.subarray(2)]))
    return path
  })
}

const residentMB = (pid: number) =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1]) / 1024

await measureDesk('photos of 12 MP', 4878, async ({ api, page, origin, data, databaseUrl, studioPid }, rows) => {
  const photos = await takePhotos(data, 0)
  const originals = photos.reduce((sum, path) => sum + readFileSync(path).length, 0)
  const id = await api.createProject('Photos', 1920, 1080, { num: 30, den: 1 })
  await page.goto(`${origin}/projects/${id}`)
  await page.getByText('Nothing here yet').or(page.getByLabel('Files to add')).first().waitFor({ state: 'attached' })
  type Sources = { sources: Record<string, { state: string; strip: object | null }> }
  const until = async (many: (entry: Sources['sources'][string]) => boolean, count: number) => {
    for (;;) {
      const { sources } = await api.call<Sources>(`/projects/${id}/sources`)
      const found = Object.values(sources).filter(many).length
      if (found >= count) return
      await new Promise((resolve) => setTimeout(resolve, 250))
    }
  }
  const heap = async () =>
    page.evaluate(() => {
      ;(globalThis as unknown as { gc?: () => void }).gc?.()
      return (performance as unknown as { memory: { usedJSHeapSize: number } }).memory.usedJSHeapSize / 1024 ** 2
    })
  const waiting = [...photos]
  const began = performance.now()
  const memory: [heap: number, server: number, live: number][] = []
  const measure = async () => memory.push([await heap(), residentMB(studioPid), await liveMemory(page, studioPid)])
  let arrived = 0
  const lane = async () => {
    for (let path = waiting.shift(); path; path = waiting.shift()) {
      await api.upload(id, path)
      if (++arrived % (PHOTOS / 2) === 0) await measure()
    }
  }
  const sendAll = () => Promise.all(Array.from({ length: PARALLEL }, lane))
  await sendAll()
  const sent = performance.now()
  await until(() => true, PHOTOS)
  rows.push([`${PHOTOS} cards after the last upload, s (20)`, (performance.now() - sent) / 1000])
  await until(({ state }) => state === 'ready', PHOTOS)
  rows.push(['all ready, s a photo (0.9)', (performance.now() - began) / 1000 / PHOTOS])
  const connection = connect(databaseUrl, 1)
  const [row] = await connection.sql`select sum(bytes) as bytes from artefacts`
  await connection.close()
  rows.push(['one original, MB', originals / PHOTOS / 1e6])
  rows.push(['derived files to originals (1.6)', Number(row!.bytes) / originals])
  // As many again: what grows with each photo shows, what is only slow to be given back does not.
  waiting.push(...(await takePhotos(data, PHOTOS)))
  await sendAll()
  await until(({ state }) => state === 'ready', 2 * PHOTOS)
  await measure()
  const at = `each ${PHOTOS / 2} sent, then all read in`
  const told = (kind: 0 | 1 | 2) => memory.map((one) => one[kind].toFixed(0)).join(', ')
  rows.push([`page heap after ${at}, MB`, told(0)])
  rows.push([`studio process after ${at}, MB`, told(1)])
  rows.push([`… of which it still needs, MB`, told(2)])
})
