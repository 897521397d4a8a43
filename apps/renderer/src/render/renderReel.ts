import { deliveryOf, hasBitrate } from '@dusk/interchange'
import { chunkEnding, exists, touchFile, type ChunkFile, type PictureEncoding, type Storage } from '@dusk/media'
import type { RenderReport, RenderSettings } from '@dusk/store'
import {
  frameToTicks,
  reading,
  reelLength,
  reelsInside,
  ticksToFrame,
  type FramePlan,
  type Project,
} from '@dusk/timeline'
import { outputPlans, type ChunkTask, type ChunkWork } from './chunkDrawer'
import { chunkKey, cutFrames, planChunks, type Chunk } from './chunks'
import { chaptersOf, deliver, verify, wantsSound } from './deliver'
import { drawChunks } from './drawChunks'
import { engineName } from './engine'
import { outputShape } from './outputShape'
import { ProgressMeter } from './progress'
import { renderSound } from './renderSound'
import { RenderFailed, type RenderRequest } from './request'
import { soundPath } from './soundFiles'
import type { SourceBook } from './sources'

/** Renders a reel to a file. @throws {RenderFailed} in words, or the signal's reason when it is aborted */
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

  const { rate, quality } = settings
  const delivery = deliveryOf(settings.format)
  const alpha = (settings.alpha && delivery.alpha) || undefined
  const shape = outputShape({ ...reel.format, background: reel.background }, settings, settings.fit)
  const aim = hasBitrate(delivery) && settings.bitrate ? { bitrate: settings.bitrate } : {}
  const encoding: PictureEncoding = { ...shape, rate, codec: delivery.picture ?? 'h264', quality, alpha, ...aim }
  const seen = delivery.kind === 'still' ? 1 : delivery.picture ? frames : 0
  const chunks = seen > 0 ? planChunks(seen, cutFrames(project, reelId, from, rate), rate) : []
  const work: ChunkWork = { project, reelId, book, from, frames: seen, shape, encoding }
  const scratch = storage.scratchSet()
  const soundFile = await scratch.scratch('.sound')
  try {
    const meter = new ProgressMeter(seen || frames, request.progress)
    const files = await chunkFiles(work, chunks, storage, signal)
    const missing: ChunkTask[] = []
    for (const file of files) {
      if (!(await exists(file.path))) missing.push(file)
      else {
        // Used just now: the sweeper takes the longest unused first.
        await touchFile(file.path)
        meter.reuse(file.frames)
      }
    }
    await drawChunks(work, missing, storage, { signal, drawn: () => meter.add(1), lanes: request.lanes })

    const heard = wantsSound(settings)
    const sound = heard ? await renderSound(request, from, frames, soundFile, meter) : null
    meter.stage('joining')
    const chapters = settings.chapters ? chaptersOf(project, reelId, from, to) : []
    const words = { title: settings.title, description: settings.description, chapters }
    const parts = { settings, chunks: files, sound: heard ? soundFile : null, words, scratch }
    const { path, report } = await deliver(parts, signal)
    meter.stage('checking')
    verify(report, frames, settings)
    await storage.publish(path, request.out)
    return {
      frames: seen || frames,
      seconds: (frames / rate.num) * rate.den,
      bytes: report.bytes,
      width: settings.width,
      height: settings.height,
      loudness: sound?.loudness ?? null,
      peak: sound?.peak ?? null,
      took: (Date.now() - began) / 1000,
      reused: chunks.length - missing.length,
      chunks: chunks.length,
    }
  } finally {
    await scratch.clear()
  }
}

/** The files that the chunks of a render are kept in, by what they show. */
async function chunkFiles(
  work: ChunkWork,
  chunks: readonly Chunk[],
  storage: Storage,
  signal?: AbortSignal,
): Promise<(ChunkTask & ChunkFile)[]> {
  const planAt = outputPlans(work)
  const name = await engineName()
  const ending = chunkEnding(work.encoding)
  return chunks.map(({ first, end }) => {
    signal?.throwIfAborted()
    const key = chunkKey(plansOf(planAt, first, end), work.book, work.encoding, name)
    return { first, end, frames: end - first, path: storage.path('chunks', key.slice(0, 2), `${key}.${ending}`) }
  })
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

/** @throws {RenderFailed} naming a source of a reel, or of those inside it, whose file is not there */
export async function checkSources(
  project: Project,
  reelId: string,
  book: SourceBook,
  storage: Storage,
): Promise<void> {
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
