import { execFileSync } from 'node:child_process'
import { join } from 'node:path'
import sharp from 'sharp'
import { reelsOf, TICKS_PER_SECOND, type CommandInput, type Project } from '@dusk/timeline'
import type { RenderEstimate } from '@dusk/store'
import { parts, piece } from '../e2e/tools/api'
import { loadDemo } from '../scripts/dusk/demo'
import { measureDesk, testFootage } from './desk'

/** What renders are told to come to before they are made, against what they then come to. */
const RATE = { num: 30, den: 1 }
const PATIENCE_MS = 60_000
const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))

/** Footage as a camera makes it: shots of a few seconds that differ in how much moves and in their noise. */
function cameraFootage(path: string, size: string, fps: number, codec: string): string {
  const shots = [
    [5, 0.4],
    [22, 3],
    [9, 1],
    [14, 6],
    [4, 0.2],
    [18, 2],
  ].map(
    ([noise, speed]) =>
      `testsrc2=s=${size}:r=${fps}:d=10,setpts=PTS/${speed},fps=${fps},trim=duration=8,setpts=PTS-STARTPTS,` +
      `noise=alls=${noise}:allf=t`,
  )
  const inputs = shots.flatMap((shot) => ['-f', 'lavfi', '-t', '8', '-i', `${shot},tpad=stop_mode=clone:stop=-1`])
  const joined = `${shots.map((_, i) => `[${i}:v]`).join('')}concat=n=${shots.length}:v=1[v]`
  const sound = ['-f', 'lavfi', '-t', '48', '-i', 'anoisesrc=c=pink:a=0.2']
  execFileSync('ffmpeg', [
    ...['-v', 'error', '-y', ...inputs, ...sound, '-filter_complex', joined, '-map', '[v]'],
    ...['-map', `${shots.length}:a`, ...codec.split(' '), '-pix_fmt', 'yuv420p', '-c:a', 'aac', path],
  ])
  return path
}

await measureDesk('what renders are told to come to', 4881, async ({ api, client, data, databaseUrl }, rows) => {
  /** Asks what a reel will come to, renders it, and compares. */
  async function compare(name: string, id: string, size: { width: number; height: number; rate: object }) {
    const { project } = await api.call<{ project: Project }>(`/projects/${id}`)
    const reelId = reelsOf(project)[0]!.id
    const settings = { ...size, quality: 'good', range: null, sound: true }
    const { id: asked } = await api.call<{ id: string }>(`/projects/${id}/estimates`, 'POST', { reelId, settings })
    const began = performance.now()
    type Answer = { found: RenderEstimate | null; endedAt: string | null; message: string | null }
    let answer: Answer
    do {
      await wait(500)
      answer = await api.call<Answer>(`/estimates/${asked}`)
    } while (!answer.endedAt && performance.now() - began < PATIENCE_MS)
    const took = (performance.now() - began) / 1000
    const { found } = answer
    if (!found) throw new Error(`${name}: ${answer.message ?? 'nothing was found out'}`)
    await api.call(`/estimates/${asked}`, 'DELETE')
    const own = await api.call<{ id: string }>(`/projects/${id}/renders`, 'POST', { reelId, name, settings })
    for (;;) {
      await wait(500)
      type Row = { id: string; state: string; message: string; report: { bytes: number; took: number } }
      const { renders } = await api.call<{ renders: Row[] }>('/renders')
      const row = renders.find((entry) => entry.id === own.id)!
      if (row.state === 'failed') throw new Error(`${name}: ${row.message}`)
      if (row.state !== 'ready') continue
      rows.push(
        [`${name}: bytes found to bytes told (0.75 to 1.25)`, row.report.bytes / found.bytes],
        [`… seconds found to seconds told (0.75 to 1.25)`, row.report.took / found.seconds],
        [`… told after so many seconds, ${found.made} of ${found.chunks} parts`, took],
      )
      return
    }
  }
  const ready = async (id: string) => {
    const { project } = await api.call<{ project: Project }>(`/projects/${id}`)
    await api.ready(id, Object.keys(project.assets))
  }

  await loadDemo(client, databaseUrl)
  const { projects } = await api.call<{ projects: { id: string; name: string }[] }>('/projects')
  const demo = projects.find(({ name }) => name.startsWith('Lantern'))!.id
  await ready(demo)
  await compare('the demo', demo, { width: 1920, height: 1080, rate: RATE })

  /** Cuts through footage, in another order than it was filmed. */
  async function cuts(name: string, path: string) {
    const id = await api.createProject(name, 1920, 1080, RATE)
    const asset = await api.upload(id, path)
    const { track } = parts(await api.ready(id, [asset]))
    const order = [31, 3, 17, 41, 9, 25, 36, 13]
    const shots = order.map((from, i) => piece(track('Picture 1'), asset, null, i * 5, 5, from))
    const heard = order.map((from, i) => piece(track('Effects'), asset, 0, i * 5, 5, from))
    await api.edit(id, { type: 'place', mode: 'free', pieces: [...shots, ...heard] })
    return { id, shots }
  }
  const camera = cameraFootage(join(data, 'camera.mp4'), '1920x1080', 30, '-c:v libx264 -preset veryfast -b:v 17M')
  const cut = await cuts('Cuts', camera)
  await compare('cuts of a camera', cut.id, { width: 1920, height: 1080, rate: RATE })

  // A restless film, a quiet one of another rate and size, and nothing, in turns.
  const mixed = await api.createProject('Two cameras', 1920, 1080, RATE)
  const films = [
    await api.upload(mixed, camera),
    await api.upload(mixed, testFootage(join(data, 'quiet.mp4'), '1280x720', 25, 30, true)),
  ] as const
  const lanes = parts(await api.ready(mixed, [...films])).track
  const stretches = [
    [0, 0, 9],
    [1, 13, 8],
    [0, 21, 7],
    [1, 34, 9],
    [0, 47, 6],
  ] as const
  await api.edit(mixed, {
    ...{ type: 'place', mode: 'free' },
    pieces: stretches.flatMap(([film, at, long]) => [
      piece(lanes('Picture 1'), films[film], null, at, long, 5),
      piece(lanes('Effects'), films[film], 0, at, long, 5),
    ]),
  })
  await compare('two cameras and gaps', mixed, { width: 1920, height: 1080, rate: RATE })

  const phone = cameraFootage(join(data, 'phone.mp4'), '3840x2160', 60, '-c:v libx264 -preset ultrafast -b:v 50M -g 60')
  const graded = await cuts('Graded', phone)
  const effect = (kind: string, settings: object) => ({ ...{ domain: 'picture', kind, settings, strength: 100 } })
  await api.edit(graded.id, {
    ...{ type: 'addEffects', owner: 'clip', ownerIds: graded.shots.map(({ clipId }) => clipId) },
    effects: [effect('tone', { exposure: 0.3, contrast: 15 }), effect('balance', { temperature: 20 })],
  } as CommandInput)
  await compare('graded shots of a phone, 4K60', graded.id, { width: 1920, height: 1080, rate: RATE })

  // Photos that are moved over, with titles.
  const id = await api.createProject('Photos', 1920, 1080, RATE)
  const assets: string[] = []
  for (let n = 0; n < 8; n++) {
    const noise = { type: 'gaussian' as const, mean: 90 + n * 10, sigma: 10 + n * 6 }
    const path = join(data, `photo-${n}.jpg`)
    await sharp({ create: { width: 4000, height: 3000, channels: 3, background: '#808080', noise } })
      .blur(0.6 + n / 3)
      .jpeg({ quality: 90 })
      .toFile(path)
    assets.push(await api.upload(id, path))
  }
  const { reelId, track } = parts(await api.ready(id, assets))
  const stills = assets.map((asset, n) => piece(track('Picture 1'), asset, null, n * 5, 5))
  const trackId = crypto.randomUUID()
  const words = { text: 'The harbour at dusk', style: {}, runs: [], in: null, out: null, during: null }
  const title = { kind: 'title', clipId: crypto.randomUUID(), trackId, start: 0, length: 12 * TICKS_PER_SECOND }
  await api.edit(
    id,
    { type: 'place', mode: 'free', pieces: stills },
    ...stills.map(
      ({ clipId }, n) =>
        ({ type: 'setParams', clipIds: [clipId], set: { size: 105 + 4 * n, position: [20 * n, 10] } }) as CommandInput,
    ),
    {
      ...{ type: 'addGenerated', mode: 'free', newTrack: { trackId, reelId } },
      generated: [{ ...title, title: words, params: {} }],
    } as CommandInput,
  )
  await compare('photos and a title', id, { width: 1920, height: 1080, rate: RATE })
})
