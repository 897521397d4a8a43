import { Compositor } from '@dusk/compositor'
import { deliveryOf, hasBitrate } from '@dusk/interchange'
import {
  ChunkEncoder,
  chunkEnding,
  exists,
  takesRgba,
  touchFile,
  type ChunkFile,
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
  ticksToFrame,
  type FramePlan,
  type Project,
} from '@dusk/timeline'
import { chunkKey, cutFrames, frameTick, planChunks } from './chunks'
import { chaptersOf, deliver, verify, wantsSound } from './deliver'
import { drawFrame, fileOf, frameOf, layerFrame } from './drawFrame'
import { loadCubes } from './cubes'
import { engineName, nodeEngine } from './engine'
import { FramePool } from './framePool'
import { outputShape, straightAlpha } from './outputShape'
import { ProgressMeter } from './progress'
import { renderSound } from './renderSound'
import { RenderFailed, type RenderRequest } from './request'
import { soundPath } from './soundFiles'
import { madeIn, type SourceBook } from './sources'

/** Frames that may wait for the encoder. */
const IN_FLIGHT = 4
/** How far ahead the next shot's decoder is opened, in frames. */
const AHEAD = 20

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
  const rgba = takesRgba(encoding)
  const planner = new FramePlanner(project, reelId, madeIn(book))
  function planAt(frame: number): FramePlan {
    const plan = planner.plan(frameTick(from, frame, rate), shape)
    return alpha ? { ...plan, background: null } : plan
  }
  const seen = delivery.kind === 'still' ? 1 : delivery.picture ? frames : 0
  const chunks = seen > 0 ? planChunks(seen, cutFrames(project, reelId, from, rate), rate) : []
  const name = await engineName()
  const compositor = new Compositor(await nodeEngine())
  await loadCubes(project, compositor, storage)
  const pool = new FramePool(compositor.engine, storage, book)
  const scratch = storage.scratchSet()
  const soundFile = await scratch.scratch('.sound')
  const pending: { finish: Promise<void>; encoder: ChunkEncoder }[] = []
  let reused = 0
  try {
    const files: ChunkFile[] = []
    const meter = new ProgressMeter(seen || frames, request.progress)
    for (const { first, end } of chunks) {
      signal?.throwIfAborted()
      const key = chunkKey(plansOf(planAt, first, end), book, encoding, name)
      const path = storage.path('chunks', key.slice(0, 2), `${key}.${chunkEnding(encoding)}`)
      files.push({ path, frames: end - first })
      if (await exists(path)) {
        // Used just now: the sweeper takes the longest unused first.
        await touchFile(path)
        reused++
        meter.reuse(end - first)
        continue
      }
      const part = await scratch.scratch(`.${chunkEnding(encoding)}`)
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
      reused,
      chunks: chunks.length,
    }

    async function encodeChunk(encoder: ChunkEncoder, first: number, end: number) {
      const flying: Promise<void>[] = []
      for (let n = first; n < end; n++) {
        signal?.throwIfAborted()
        const plan = planAt(n)
        if (n + AHEAD < seen)
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
      if (
        !rgba &&
        plan.passThrough &&
        layer?.kind === 'picture' &&
        book.get(layer.assetId)!.metadata.kind === 'video'
      ) {
        const [frame] = await pool.frames([frameOf(layer, book)])
        if (frame) return { written: quiet(encoder.write(frame.frame).finally(() => frame.release())) }
      }
      const picture = await drawFrame(plan, compositor, pool, book, storage)
      const drawn = rgba ? picture.pixels() : compositor.toI420(picture)
      const bytes = pool.buffer(drawn.length)
      if (alpha) straightAlpha(drawn, bytes)
      else bytes.set(drawn)
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
