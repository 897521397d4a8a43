import { createHash, randomUUID } from 'node:crypto'
import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, test } from '@playwright/test'
import { freePort } from '../scripts/dusk/cluster'
import { parts, piece, Studio, type ProjectState } from './tools/api'
import { colourBars, ffmpeg, folder } from './tools/media'
import { PARTS, Supervised } from './tools/supervised'

/**
 * How often each part is killed: a hundred times in the long tests, which takes 50 minutes, and not at all in the
 * others, where `durable.spec.ts` kills the server, and the database while a studio starts, and the renderer's tests
 * kill workers.
 */
const CYCLES = Number(process.env.DUSK_KILLS ?? (process.env.DUSK_LONG ? 100 : 0))
/** Seconds within which what is left after the last one has to go on, again and again until all is settled. */
const SETTLED = 60

interface RenderRow {
  id: string
  state: string
  message: string | null
  progress: object | null
  report: { frames: number } | null
}

const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))
const asked = { width: 320, height: 180, rate: { num: 25, den: 1 }, quality: 'draft', range: null, sound: true }

/** Ids of all edits in a project's log, which is told in pages. */
async function editsOf(studio: Studio, id: string): Promise<string[]> {
  const found: string[] = []
  for (let after = 0; ;) {
    const { edits } = await studio.call<{ edits: { id: string; seq: number }[] }>(
      `/projects/${id}/edits?after=${after}`,
    )
    if (edits.length === 0) return found
    found.push(...edits.map((edit) => edit.id))
    after = edits.at(-1)!.seq
  }
}

test('nothing is lost, stuck or left behind, whichever part is killed at whatever moment', async () => {
  test.skip(CYCLES === 0, 'killed by ./dusk test --long, or as often as DUSK_KILLS says')
  test.setTimeout(CYCLES * 200_000 + 300_000)
  const data = mkdtempSync(join(tmpdir(), 'dusk-kills-'))
  const dir = folder()
  const run = new Supervised(data, await freePort())
  run.start()
  await run.up(180)
  const studio = new Studio(run.client.origin, run.client.reach.key)
  try {
    const id = await studio.createProject('Killed', 640, 360, { num: 25, den: 1 })
    const bars = await studio.upload(id, colourBars(join(dir, 'bars.mp4')))
    const state = await studio.ready(id, [bars])
    const { reelId, track } = parts(state)
    await studio.edit(id, {
      type: 'place',
      mode: 'free',
      pieces: [piece(track('Picture 1'), bars, null, 0, 3), piece(track('Effects'), bars, 0, 0, 3)],
    })
    const renders: string[] = []
    const render = async () => {
      const { id: own } = await studio.call<{ id: string }>(`/projects/${id}/renders`, 'POST', {
        ...{ reelId, name: 'Killed', settings: asked },
      })
      renders.push(own)
      return own
    }
    const rows = async () => (await studio.call<{ renders: RenderRow[] }>('/renders')).renders
    const first = await render()
    await expect.poll(async () => (await rows()).find((row) => row.id === first)!.state).toBe('ready')
    /** What is seen and heard in a render, as one number. */
    const content = async (own: string) => {
      const path = join(dir, `${own}.mp4`)
      writeFileSync(path, await studio.file(`/api/renders/${own}/file`))
      return createHash('sha256')
        .update(ffmpeg('-i', path, '-f', 'framemd5', '-'))
        .digest('hex')
    }
    const undisturbed = await content(first)

    let going = true
    const kept: string[] = []
    const uploaded: string[] = []
    /** Does something again and again while parts are killed; what fails is done again. */
    const keepOn = async (pause: number, work: () => Promise<void>) => {
      while (going) {
        await work().catch(() => {})
        await wait(pause)
      }
    }
    let next = randomUUID()
    const edits = keepOn(120, async () => {
      const command = { type: 'renameProject', name: `Killed ${kept.length}` }
      const sent = { windowId: 'kills', edits: [{ id: next, command }] }
      const { outcomes } = await studio.call<{ outcomes: { seq?: number }[] }>(`/projects/${id}/edits`, 'POST', sent)
      if (outcomes[0]?.seq === undefined) throw new Error('not kept')
      kept.push(next)
      next = randomUUID()
    })
    let n = 0
    const uploads = keepOn(2500, async () => {
      const path = join(dir, `clip-${n++}.mp4`)
      ffmpeg(
        ...`-f lavfi -i testsrc2=s=160x90:r=25:d=1 -f lavfi -i sine=${300 + n}:d=1 -shortest`.split(' '),
        ...`-c:v libx264 -preset ultrafast -pix_fmt yuv420p -metadata comment=${n} ${path}`.split(' '),
      )
      uploaded.push(await studio.upload(id, path))
    })
    const renderings = keepOn(1500, async () => {
      if ((await rows()).some((row) => row.state === 'waiting' || row.state === 'working')) return
      // Nothing is kept from before: each has all of its work before it.
      rmSync(join(data, 'media/chunks'), { recursive: true, force: true })
      await render()
    })

    /** Waits for a render to be at work, for a while: what is killed then is in the middle of it. */
    const rendering = async () => {
      for (let i = 0; i < 60; i++) {
        if ((await rows().catch(() => [])).some((row) => row.state === 'working')) return
        await wait(200)
      }
    }
    let slowest = 0
    for (let cycle = 0; cycle < CYCLES; cycle++)
      for (const part of PARTS) {
        if (Math.random() < 0.5) await rendering()
        await wait(Math.random() * 2500)
        if (!run.kill(part)) continue
        await wait(50)
        slowest = Math.max(slowest, await run.up())
      }
    await wait(1500)
    going = false
    await Promise.all([edits, uploads, renderings])

    // Everything that was taken is settled, and never is there a minute in which nothing of it went on …
    const unsettled = async () => {
      const project = await studio.call<ProjectState>(`/projects/${id}`)
      const busy = (await rows()).filter((row) => row.state === 'waiting' || row.state === 'working')
      const missing = uploaded.filter((own) => project.sources[own]?.state !== 'ready')
      const stateOf = (own: string) =>
        project.sources[own] ?? project.pendingImports.find((entry) => entry.id === own) ?? 'unknown'
      const left = readdirSync(join(data, 'media/scratch')).flatMap((name) =>
        readdirSync(join(data, 'media/scratch', name)),
      )
      return [
        ...busy.map((row) => `render ${row.id} ${JSON.stringify(row.progress)}`),
        ...missing.map((own) => `source ${uploaded.indexOf(own)}: ${JSON.stringify(stateOf(own))}`),
        ...left,
      ]
    }
    let [left, since] = [await unsettled(), Date.now()]
    while (left.length > 0) {
      await wait(1000)
      const now = await unsettled()
      if (JSON.stringify(now) !== JSON.stringify(left)) since = Date.now()
      left = now
      expect(Date.now() - since, `stuck: ${left.join('\n')}`).toBeLessThan(SETTLED * 1000)
    }
    // … no edit is lost, and each is there once, in the order in which they were acknowledged.
    const mine = new Set(kept)
    expect((await editsOf(studio, id)).filter((own) => mine.has(own))).toEqual(kept)
    // Renders hold what the undisturbed one holds.
    const done = (await rows()).filter((row) => renders.includes(row.id))
    expect(done.filter((row) => row.state !== 'ready').map((row) => row.message)).toEqual([])
    for (const own of renders.slice(-30)) expect(await content(own)).toBe(undisturbed)
    console.log(
      `      ${CYCLES * PARTS.length} kills: ${kept.length} edits, ${uploaded.length} uploads, ${renders.length} ` +
        `renders; up again after ${slowest.toFixed(1)} s at most`,
    )
    expect(kept.length).toBeGreaterThan(CYCLES * 4)
    expect(renders.length).toBeGreaterThan(CYCLES / 4)
  } catch (error) {
    console.log(run.log.slice(-40).join('\n'))
    throw error
  } finally {
    await run.stop()
    rmSync(data, { recursive: true, force: true })
    rmSync(dir, { recursive: true, force: true })
  }
})
