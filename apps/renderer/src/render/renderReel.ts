import { stat } from 'node:fs/promises'
import { chaptersOf } from '@dusk/interchange'
import type { Storage } from '@dusk/media'
import type { RenderReport } from '@dusk/store'
import { reading, reelsInside, type Project } from '@dusk/timeline'
import { OwnChunks } from './chunkSupply'
import { deliver, verify, wantsSound } from './deliver'
import { drawChunks } from './drawChunks'
import { FilmShelf } from './filmShelf'
import { keptSound } from './keptSound'
import { planRender, renderRange } from './planRender'
import { ProgressMeter } from './progress'
import { RenderFailed, type RenderRequest, type SharedRender } from './request'
import { sideBySide } from './sideBySide'
import { soundPath } from './soundFiles'
import type { SourceBook } from './sources'

/** Renders a reel to a file. @throws {RenderFailed} in words, or the signal's reason when it is aborted */
export async function renderReel(request: RenderRequest): Promise<RenderReport> {
  try {
    return await makeFile(request)
  } catch (error) {
    request.signal?.throwIfAborted()
    throw encoderMissing(error) ?? error
  }
}

/** What is to be said when this machine's ffmpeg was built without an encoder that is needed. */
function encoderMissing(error: unknown): RenderFailed | null {
  const [, encoder] = /Unknown encoder '([^']+)'/.exec((error as Error).message) ?? []
  if (!encoder) return null
  return new RenderFailed(
    `The ffmpeg of this machine has no encoder ${encoder}. ` +
      'Choose another kind of file, or install an ffmpeg that has it and try again.',
  )
}

async function makeFile(request: RenderRequest): Promise<RenderReport> {
  const { project, reelId, settings, book, storage } = request
  const began = Date.now()
  await checkSources(project, reelId, book, storage)
  const films = new FilmShelf(storage)
  const scratch = storage.scratchSet()
  try {
    const { from, to, frames } = renderRange(request)
    const { rate } = settings
    const soundFile = await scratch.scratch('.sound')
    const heard = wantsSound(settings)
    const makePictures = async (signal: AbortSignal) => {
      const planned = await planRender({ ...request, signal }, films)
      const meter = new ProgressMeter(planned.seen || frames, request.progress)
      const missing = await missingChunks(planned.chunks, storage)
      await drawMissing(request, { ...planned, missing, meter, films, signal })
      if (heard) meter.stage('sound')
      return { ...planned, missing, meter }
    }
    const makeSound = async (signal: AbortSignal) =>
      heard ? keptSound({ ...request, signal }, from, frames, soundFile, scratch) : null
    // Neither keeps all processors busy to its end: each fills the other's gaps.
    const [pictures, sound] = await sideBySide(request.signal, [makePictures, makeSound])
    const { seen, chunks, missing, meter } = pictures

    // Those that other machines made are joined here.
    for (const { path, n } of chunks)
      if (!(await storage.fetch(path))) throw new Error(`Part ${n} of the render is gone from the store of chunks.`)
    meter.stage('joining')
    const chapters = settings.chapters ? chaptersOf(project, reelId, from, to) : []
    const words = { title: settings.title, description: settings.description, chapters }
    const fitted = (part: number) => meter.fitted(part)
    const parts = { settings, chunks, book, films, sound: heard ? soundFile : null, words, scratch, fitted }
    const { path, report } = await deliver(parts, request.signal)
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
      copied: chunks.reduce((sum, chunk) => sum + (chunk.copied ? chunk.frames : 0), 0),
    }
  } finally {
    await films.close()
    await scratch.clear()
  }
}

/** Has the chunks made that are not there. */
async function drawMissing({ share, storage, lanes }: RenderRequest, render: SharedRender): Promise<void> {
  if (share) return share(render)
  const { work, chunks, missing, meter, films, signal } = render
  for (const chunk of chunks) if (!missing.includes(chunk)) meter.reuse(chunk.end - chunk.first)
  const supply = new OwnChunks(missing, () => meter.add(1), lanes)
  await drawChunks(work, missing, supply, storage, { signal, films, lanes })
}

/** Chunks whose files are not there; the others were used just now, as the sweeper takes the longest unused first. */
async function missingChunks<T extends { path: string }>(chunks: readonly T[], storage: Storage): Promise<T[]> {
  const missing: T[] = []
  for (const chunk of chunks)
    if (await storage.fetch(chunk.path)) await storage.touch(chunk.path)
    else missing.push(chunk)
  return missing
}

/**
 * Sees to it that what is rendered from is on this machine.
 * @param kind `pictures` where no sound is wanted
 * @throws {RenderFailed} naming a source of a reel, or of those inside it, whose file is not there
 */
export async function checkSources(
  project: Project,
  reelId: string,
  book: SourceBook,
  storage: Storage,
  kind: 'all' | 'pictures' = 'all',
): Promise<void> {
  const reels = reelsInside(reading(project), reelId)
  const tracks = new Set(
    Object.values(project.tracks)
      .filter((track) => reels.has(track.reelId))
      .map((track) => track.id),
  )
  for (const clip of Object.values(project.clips)) {
    if (clip.kind !== 'media' || !tracks.has(clip.trackId)) continue
    if (clip.stream !== null && kind === 'pictures') continue
    const name = project.assets[clip.assetId]?.name ?? 'A source'
    const entry = book.get(clip.assetId)
    if (!entry)
      throw new RenderFailed(
        `${name} is still being read in, or its file is missing. Wait for it, or remove its clips.`,
      )
    const needed = clip.stream === null ? storage.original(entry.hash) : soundPath(storage, entry.hash, clip.stream)
    if (!(await storage.fetch(needed)))
      throw new RenderFailed(`${name} is still being prepared, or its file is missing from the data folder.`)
    if (clip.stream === null && entry.size !== undefined && (await stat(needed)).size !== entry.size)
      throw new RenderFailed(
        `The file of ${name} in the data folder is not what was added: it is longer or shorter now. Add it again.`,
      )
  }
}
