import { mkdir, rm, stat } from 'node:fs/promises'
import { canFit, deliveryOf, type Delivery } from '@dusk/interchange'
import {
  inspectFile,
  joinChunks,
  joinMixed,
  makeGif,
  makeStillPng,
  makeWebp,
  zipPictures,
  type ChunkFile,
  type FileReport,
  type FileWords,
  type MixedChunk,
  type ScratchSet,
} from '@dusk/media'
import type { RenderSettings } from '@dusk/store'
import { framesPerSecond, SAMPLE_RATE } from '@dusk/timeline'
import type { CopiedFrom } from './copies'
import { copyFailed, type FilmShelf } from './filmShelf'
import { fitSize } from './fitSize'
import { RenderFailed } from './request'
import type { SourceBook } from './sources'

/** What a finished file is put together from. */
export interface Parts {
  settings: RenderSettings
  /** Encoded pictures; those of loops and of single pictures are without loss. */
  chunks: readonly (ChunkFile & { copied?: CopiedFrom })[]
  /** What some of them were copied from. */
  book: SourceBook
  films: FilmShelf
  /** A file of sound, or `null`. */
  sound: string | null
  words: FileWords
  scratch: ScratchSet
  /** Hears how far a film is that is made to fit into a size, 0 to 1. */
  fitted?: (part: number) => void
}

/** Puts a file together. @returns its path, and what it was found to hold */
export async function deliver(parts: Parts, signal?: AbortSignal): Promise<{ path: string; report: FileReport }> {
  const delivery = deliveryOf(parts.settings.format)
  const path = await assemble(parts, delivery, signal)
  // A ZIP is not a film: what is in it was counted when it was written.
  const report =
    delivery.kind === 'pictures'
      ? { seconds: 0, bytes: (await stat(path)).size, picture: null, sound: null }
      : await inspectFile(path, signal)
  return { path, report }
}

/** Joins chunks of which some were copied to one film, checked picture by picture. */
async function mix({ settings, chunks, book, films, scratch }: Parts, signal?: AbortSignal): Promise<ChunkFile> {
  const [out, list] = [await scratch.scratch('.mp4'), await scratch.scratch('.txt')]
  try {
    const mixed: MixedChunk[] = []
    for (const { path, frames, copied } of chunks) {
      const entry = copied && book.get(copied.assetId)!
      const film = entry && (await films.openPlanned(entry.hash, entry.metadata))
      mixed.push({ path, frames, copied: film && { film, frame: copied!.frame } })
    }
    await joinMixed({ chunks: mixed, rate: settings.rate, out, scratch: list }, signal)
  } catch (error) {
    throw copyFailed(error, signal)
  }
  return { path: out, frames: chunks.reduce((sum, { frames }) => sum + frames, 0) }
}

async function assemble(parts: Parts, delivery: Delivery, signal?: AbortSignal): Promise<string> {
  const { settings, chunks, sound, words, scratch, fitted } = parts
  const { kind, ending, picture } = delivery
  if (kind === 'sound') return sound!
  const out = await scratch.scratch(`.${ending}`)
  const list = await scratch.scratch('.txt')
  const { rate, quality } = settings
  const pictures = { chunks, rate, scratch: list }
  if (kind === 'film') {
    const fits = settings.maxBytes && canFit(delivery)
    const mixed = chunks.some(({ copied }) => copied)
    const seen = fits
      ? [await fitSize({ settings, chunks, sound, scratch, progress: fitted }, signal)]
      : mixed
        ? [await mix(parts, signal)]
        : chunks
    const joining = { chunks: seen, rate, sound, out, scratch: list, words, codec: picture! }
    await joinChunks({ ...joining, ending: ending as 'mp4' }, signal)
  } else if (kind === 'pictures') {
    const folder = await scratch.scratch('.pictures')
    await mkdir(folder, { recursive: true })
    try {
      await zipPictures(pictures, out, { codec: picture as 'png', quality, folder }, signal)
    } finally {
      await rm(folder, { recursive: true, force: true })
    }
  } else if (kind === 'still') await makeStillPng(pictures, out, signal)
  else if (picture === 'gif') await makeGif(pictures, out, { quality, dither: settings.dither }, signal)
  else await makeWebp(pictures, out, quality, signal)
  return out
}

/** @throws {RenderFailed} when a finished file is not what was asked for */
export function verify(report: FileReport, frames: number, settings: RenderSettings): void {
  const { kind, picture, sound } = deliveryOf(settings.format)
  const again = 'Try again; if it stays so, please report it.'
  const seconds = kind === 'still' ? 0 : frames / framesPerSecond(settings.rate)
  if (kind === 'film' || kind === 'still') {
    const wanted = kind === 'still' ? 1 : frames
    if (report.picture?.frames !== wanted)
      throw new RenderFailed(
        `The file came out with ${report.picture?.frames ?? 0} pictures instead of ${wanted}. ${again}`,
      )
  }
  if (kind !== 'pictures' && picture && picture !== 'webp')
    if (report.picture?.width !== settings.width || report.picture.height !== settings.height)
      throw new RenderFailed(`The file came out in another size than asked for. ${again}`)
  // Sound is coded in frames of its own; the last may reach past the picture, and these two begin with silence besides.
  const slack = sound === 'mp3' || sound === 'opus' ? 4096 : 2048
  // Some tell their length only as a whole.
  const heard = report.sound ? report.sound.seconds || report.seconds : 0
  if (wantsSound(settings) && Math.abs(heard - seconds) > slack / SAMPLE_RATE)
    throw new RenderFailed(`The sound of the file came out in another length than its picture. ${again}`)
}

/** Whether a file of these settings is to have sound. */
export function wantsSound(settings: RenderSettings): boolean {
  const { kind, sound } = deliveryOf(settings.format)
  return sound !== null && (settings.sound || kind === 'sound')
}
