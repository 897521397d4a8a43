import { Compositor } from '@dusk/compositor'
import {
  ChunkEncoder,
  exists,
  touchFile,
  inspectFile,
  joinChunks,
  type ChunkFile,
  type FileReport,
  type PictureEncoding,
  type Storage,
} from '@dusk/media'
import type { RenderReport, RenderSettings } from '@dusk/store'
import {
  FramePlanner,
  frameToTicks,
  pictureLayers,
  reading,
  reelLength,
  reelsInside,
  SAMPLE_RATE,
  ticksToFrame,
  type FramePlan,
  type Project,
} from '@dusk/timeline'
import { chunkKey, cutFrames, frameTick, planChunks } from './chunks'
import { drawFrame, fileOf, frameOf, layerFrame } from './drawFrame'
import { loadCubes } from './cubes'
import { engineName, nodeEngine } from './engine'
import { FramePool } from './framePool'
import { ProgressMeter } from './progress'
import { renderSound } from './renderSound'
import { RenderFailed, type RenderRequest } from './request'
import { soundPath } from './soundFiles'
import { madeIn, type SourceBook } from './sources'

/** x264's rate factor and preset for each choice of quality. */
const QUALITY: Record<RenderSettings['quality'], Pick<PictureEncoding, 'crf' | 'preset'>> = {
  draft: { crf: 26, preset: 'ultrafast' },
  good: { crf: 20, preset: 'veryfast' },
  best: { crf: 16, preset: 'fast' },
}
/** Frames that may wait for the encoder. */
const IN_FLIGHT = 4
/** How far ahead the next shot's decoder is opened, in frames. */
const AHEAD = 20

/** Renders a reel to an MP4. @throws {RenderFailed} in words, or the signal's reason when it is aborted */
export async function renderReel(request: RenderRequest): Promise<RenderReport> {
  const { project, reelId, settings, book, storage, signal } = request
  const began = Date.now()
  const reel = project.reels[reelId]
  if (!reel) throw new RenderFailed('The reel to render is no longer in the project.')
  const from = settings.range?.from ?? 0
  const to = Math.min(settings.range?.to ?? Infinity, reelLength(project, reelId))
  const frames = framesBetween(from, to, settings)
  if (frames <= 0) throw new RenderFailed('There is nothing in this reel to render. Put a clip on the timeline first.')
  await checkSources(project, reelId, book, storage)

  const { rate, width, height } = settings
  const encoding: PictureEncoding = { width, height, rate, ...QUALITY[settings.quality] }
  const planner = new FramePlanner(project, reelId, madeIn(book))
  const planAt = (frame: number) => planner.plan(frameTick(from, frame, rate), settings)
  const chunks = planChunks(frames, cutFrames(project, reelId, from, rate), rate)
  const name = await engineName()
  const compositor = new Compositor(await nodeEngine())
  await loadCubes(project, compositor, storage)
  const pool = new FramePool(compositor.engine, storage, book)
  const scratch = storage.scratchSet()
  const [soundFile, joined, list] = [
    await scratch.scratch('.m4a'),
    await scratch.scratch('.mp4'),
    await scratch.scratch('.txt'),
  ]
  const pending: { finish: Promise<void>; encoder: ChunkEncoder }[] = []
  let reused = 0
  try {
    const files: ChunkFile[] = []
    const meter = new ProgressMeter(frames, request.progress)
    for (const { first, end } of chunks) {
      signal?.throwIfAborted()
      const key = chunkKey(plansOf(planAt, first, end), book, encoding, name)
      const path = storage.path('chunks', key.slice(0, 2), `${key}.ts`)
      files.push({ path, frames: end - first })
      if (await exists(path)) {
        // Used just now: the sweeper takes the longest unused first.
        await touchFile(path)
        reused++
        meter.reuse(end - first)
        continue
      }
      const part = await scratch.scratch('.ts')
      const encoder = new ChunkEncoder(encoding, part)
      const entry = { encoder, finish: Promise.resolve() }
      pending.push(entry)
      await encodeChunk(encoder, first, end)
      // The encoder empties its last frames while the next chunk already begins.
      entry.finish = encoder.finish().then(() => storage.publish(part, path))
      entry.finish.catch(() => {})
      if (pending.length > 1) await pending.shift()!.finish
    }
    for (const { finish } of pending) await finish
    pending.length = 0

    const sound = settings.sound ? await renderSound(request, from, frames, soundFile, meter) : null
    meter.stage('joining')
    await joinChunks(files, rate, settings.sound ? soundFile : null, joined, list, signal)
    meter.stage('checking')
    const report = await inspectFile(joined, signal)
    verify(report, frames, settings)
    await storage.publish(joined, request.out)
    return {
      frames,
      seconds: (frames / rate.num) * rate.den,
      bytes: report.bytes,
      width,
      height,
      loudness: sound?.loudness ?? null,
      peak: sound?.peak ?? null,
      took: (Date.now() - began) / 1000,
      reused,
      chunks: chunks.length,
    }

    async function encodeChunk(encoder: ChunkEncoder, first: number, end: number) {
      const flying: Promise<void>[] = []
      for (let n = first; n < end; n++) {
        signal?.throwIfAborted()
        const plan = planAt(n)
        if (n + AHEAD < frames)
          for (const layer of pictureLayers(planAt(n + AHEAD)))
            if (!layer.reversed) pool.expect(fileOf(layer, book), layerFrame(layer, book), AHEAD)
        if (flying.length >= IN_FLIGHT) await flying.shift()
        flying.push((await hand(encoder, plan)).written)
        meter.add(1)
      }
      await Promise.all(flying)
    }

    /** Gives a frame to the encoder; `written` settles when its bytes are free again. */
    async function hand(encoder: ChunkEncoder, plan: FramePlan): Promise<{ written: Promise<void> }> {
      const [layer] = plan.layers
      if (plan.passThrough && layer?.kind === 'picture' && book.get(layer.assetId)!.metadata.kind === 'video') {
        const [frame] = await pool.frames([frameOf(layer, book)])
        if (frame) return { written: quiet(encoder.write(frame.frame).finally(() => frame.release())) }
      }
      const picture = await drawFrame(plan, compositor, pool, book)
      const planes = compositor.toI420(picture)
      const bytes = pool.buffer(planes.length)
      bytes.set(planes)
      return { written: quiet(encoder.write(bytes).finally(() => pool.recycle(bytes))) }
    }
  } finally {
    for (const { encoder } of pending) encoder.abort()
    pool.close()
    compositor.release()
    await scratch.clear()
  }
}

/** A promise that is awaited later must not count as unhandled until then. */
function quiet(promise: Promise<void>): Promise<void> {
  promise.catch(() => {})
  return promise
}

function* plansOf(planAt: (frame: number) => FramePlan, first: number, end: number): Generator<FramePlan> {
  for (let n = first; n < end; n++) yield planAt(n)
}

/** Output frames that a range holds: the last one begins before its end. */
export function framesBetween(from: number, to: number, { rate }: Pick<RenderSettings, 'rate'>): number {
  if (!(to > from)) return 0
  const whole = ticksToFrame(to - from, rate)
  return whole + (frameToTicks(whole, rate) < to - from ? 1 : 0)
}

async function checkSources(project: Project, reelId: string, book: SourceBook, storage: Storage): Promise<void> {
  const reels = reelsInside(reading(project), reelId)
  const tracks = new Set(
    Object.values(project.tracks)
      .filter((track) => reels.has(track.reelId))
      .map((track) => track.id),
  )
  for (const clip of Object.values(project.clips)) {
    if (clip.kind !== 'media' || !tracks.has(clip.trackId)) continue
    const name = project.assets[clip.assetId]?.name ?? 'A source'
    const entry = book.get(clip.assetId)
    if (!entry)
      throw new RenderFailed(
        `${name} is still being read in, or its file is missing. Wait for it, or remove its clips.`,
      )
    const needed = clip.stream === null ? storage.original(entry.hash) : soundPath(storage, entry.hash, clip.stream)
    if (!(await exists(needed)))
      throw new RenderFailed(`${name} is still being prepared, or its file is missing from the data folder.`)
  }
}

/** The file must hold what was asked for; a person is never given one that does not. */
function verify(report: FileReport, frames: number, settings: RenderSettings): void {
  const seconds = (frames / settings.rate.num) * settings.rate.den
  if (report.picture?.frames !== frames)
    throw new RenderFailed(
      `The file came out with ${report.picture?.frames ?? 0} pictures instead of ${frames}. Try again; if it ` +
        'stays so, please report it.',
    )
  if (report.picture.width !== settings.width || report.picture.height !== settings.height)
    throw new RenderFailed('The file came out in another size than asked for.')
  // AAC works in frames of 1024 samples; the last may reach past the picture.
  if (settings.sound && Math.abs((report.sound?.seconds ?? 0) - seconds) > 2048 / SAMPLE_RATE)
    throw new RenderFailed('The sound of the file came out in another length than its picture.')
}
