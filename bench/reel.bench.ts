import { execFileSync } from 'node:child_process'
import { rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { x264Args } from '@dusk/media'
import { reelsOf, TICKS_PER_SECOND, type CommandInput, type Project } from '@dusk/timeline'
import { parts, piece } from '../e2e/tools/api'
import { loadDemo } from '../scripts/dusk/demo'
import { measureDesk, testFootage, timedRender } from './desk'
import { median } from './table'

/**
 * Whole reels as people make them: the demo against ffmpeg decoding and encoding the finished file, with a grade too,
 * and how little of a five-minute reel is made again after a small change.
 */
const RUNS = Number(process.env.DUSK_RUNS ?? 3)
const RATE = { num: 30, den: 1 }
const HD = { width: 1920, height: 1080, rate: RATE }

await measureDesk('whole reels', 4882, async ({ api, client, data, databaseUrl }, rows) => {
  const chunks = join(data, 'media/chunks')

  /** Renders the first reel of a project. @returns seconds that it took, and its id */
  async function render(id: string, size: typeof HD): Promise<{ took: number; id: string }> {
    const { project } = await api.call<{ project: Project }>(`/projects/${id}`)
    const reelId = reelsOf(project)[0]!.id
    const settings = { ...size, quality: 'good', range: null, sound: true }
    return timedRender(api, id, { reelId, name: 'Reel', settings })
  }
  const anew = async (id: string, size = HD) => {
    rmSync(chunks, { recursive: true, force: true })
    return render(id, size)
  }
  const encoding = { ...HD, crf: 20, preset: 'veryfast' as const }

  /** Seconds that ffmpeg takes to decode a finished render and to encode it again, picture and sound. */
  async function again(id: string): Promise<number> {
    const path = join(data, 'finished.mp4')
    writeFileSync(path, await api.file(`/api/renders/${id}/file`))
    const began = performance.now()
    const out = join(data, 'again.mp4')
    execFileSync('ffmpeg', ['-v', 'error', '-y', '-i', path, ...x264Args(encoding), '-c:a', 'aac', out])
    return (performance.now() - began) / 1000
  }
  async function against(id: string): Promise<[ours: number, theirs: number]> {
    const runs: [number, number][] = []
    for (let i = 0; i < RUNS; i++) {
      const made = await anew(id)
      runs.push([made.took, await again(made.id)])
    }
    return [median(runs.map(([ours]) => ours)), median(runs.map(([, theirs]) => theirs))]
  }

  await loadDemo(client, databaseUrl)
  const { projects } = await api.call<{ projects: { id: string; name: string }[] }>('/projects')
  const demo = projects.find(({ name }) => name.startsWith('Lantern'))!.id
  const { project } = await api.call<{ project: Project }>(`/projects/${demo}`)
  for (const { id: one } of projects) {
    const state = await api.call<{ project: Project }>(`/projects/${one}`)
    await api.ready(one, Object.keys(state.project.assets))
  }
  const [plain, plainAgain] = await against(demo)
  rows.push(['the demo at 1080p, s', plain], ['… to ffmpeg decoding and encoding the file (1.1)', plain / plainAgain])

  const shots = Object.values(project.clips).filter(
    (clip) => clip.kind === 'media' && clip.stream === null && project.tracks[clip.trackId]!.kind === 'picture',
  )
  const effect = (kind: string, settings: object, more: object = {}) => ({
    ...{ domain: 'picture', kind, settings, strength: 100, ...more },
  })
  const ellipse = { id: crypto.randomUUID(), kind: 'ellipse', mode: 'add', settings: { outer: 60, invert: true } }
  const ownerIds = shots.map(({ id }) => id)
  await api.edit(
    demo,
    {
      ...{ type: 'addEffects', owner: 'clip', ownerIds },
      effects: [effect('tone', { exposure: 0.3, contrast: 15 }), effect('balance', { temperature: 20 })],
    },
    {
      ...{ type: 'addEffects', owner: 'clip', ownerIds: ownerIds.slice(0, 1) },
      effects: [effect('blur', { radius: 20 }, { mask: { shapes: [ellipse] } })],
    },
  )
  const [graded, gradedAgain] = await against(demo)
  rows.push(['… with a grade on each shot and a masked blur (1.5)', graded / gradedAgain])

  // Five minutes of shots of five seconds, with a title in each half minute, at 720p.
  const id = await api.createProject('Five minutes', 1920, 1080, RATE)
  const asset = await api.upload(id, testFootage(join(data, 'quay.mp4'), '1920x1080', 30, 60))
  const { reelId, track } = parts(await api.ready(id, [asset]))
  const pieces = Array.from({ length: 60 }, (_, i) => piece(track('Picture 1'), asset, null, i * 5, 5, (i * 17) % 55))
  const titles = Array.from({ length: 10 }, (_, i) => ({
    ...{ kind: 'title', clipId: crypto.randomUUID(), start: (i * 30 + 2) * TICKS_PER_SECOND },
    ...{ length: 3 * TICKS_PER_SECOND, params: {} },
    title: { text: `Evening ${i}`, style: {}, runs: [], in: null, out: null, during: null },
  }))
  const trackId = crypto.randomUUID()
  await api.edit(id, { type: 'place', mode: 'free', pieces }, {
    ...{ type: 'addGenerated', mode: 'free', newTrack: { trackId, reelId } },
    generated: titles.map((title) => ({ ...title, trackId })),
  } as CommandInput)
  const size = { width: 1280, height: 720, rate: RATE }
  const first = (await anew(id, size)).took
  await api.edit(id, { type: 'setTitle', clipIds: [titles[4]!.clipId], set: { text: 'Lanterns' } })
  const changed = (await render(id, size)).took
  await api.edit(id, { type: 'remove', clipIds: [pieces[0]!.clipId], closeUp: true })
  const closed = (await render(id, size)).took
  rows.push(
    ['five minutes at 720p, s', first],
    ['… once more after one title’s change (0.04)', changed / first],
    ['… once more after the first shot was closed up (0.03)', closed / first],
  )
})
