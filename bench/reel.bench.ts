import { execFileSync } from 'node:child_process'
import { rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { x264Args } from '@dusk/media'
import { reelsOf, type Project } from '@dusk/timeline'
import { loadDemo } from '../scripts/dusk/demo'
import { measureDesk, timedRender } from './desk'
import { median } from './table'

/**
 * A whole reel as people make them: the demo against ffmpeg decoding and encoding the finished file, with a grade too.
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
})
