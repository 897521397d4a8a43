import { stat } from 'node:fs/promises'
import { deliveryOf } from '@dusk/interchange'
import { fitPass, forgetPasses, type ChunkFile, type FittedFilm, type ScratchSet } from '@dusk/media'
import type { RenderSettings } from '@dusk/store'
import { framesPerSecond } from '@dusk/timeline'
import { RenderFailed } from './request'

/** Part of the size that is aimed at: what is over is too large, what is under is only a little less good. */
const AIM = 0.985
/** Below this part of the size it is tried again with what was left over. */
const ENOUGH = 0.97
/** Bytes of a file for each of its frames besides pictures, and for all of it. */
const FRAME_BYTES = 14
const FILE_BYTES = 6000
/** Times that pictures are encoded at most. */
const TRIES = 4
/** Bits that a pixel of a film takes at the very least for anything to be seen. */
const LEAST_BITS = 0.002

/** What is put together to a size. */
export interface Fitting {
  settings: RenderSettings
  chunks: readonly ChunkFile[]
  /** A file of sound, or `null`. */
  sound: string | null
  scratch: ScratchSet
  /** Hears how far it is, 0 to 1. */
  progress?: (part: number) => void
}

const words = (bytes: number) => `${(bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0)} MB`

/**
 * Encodes the pictures of a film so that all of its file takes no more than the bytes that were asked for, and no less
 * than 3 % under them where there is enough to see.
 * @returns one file of pictures, to be joined with the sound
 * @throws {RenderFailed} in words when the size is too small for it
 */
export async function fitSize(
  { settings, chunks, sound, scratch, progress }: Fitting,
  signal?: AbortSignal,
): Promise<ChunkFile> {
  const { rate, quality, speed, width, height } = settings
  const frames = chunks.reduce((sum, chunk) => sum + chunk.frames, 0)
  const seconds = frames / framesPerSecond(rate)
  const heard = sound ? (await stat(sound)).size : 0
  const beside = heard + frames * FRAME_BYTES + FILE_BYTES
  const room = settings.maxBytes! * AIM - beside
  const least = (LEAST_BITS * width * height * frames) / 8
  if (room < least)
    throw new RenderFailed(
      `${words(settings.maxBytes!)} are too few for ${Math.round(seconds)} s of ${width} × ${height}: ` +
        `it takes ${words(least + beside)} at least${heard > least ? ', most of it for the sound' : ''}. ` +
        'Make the picture smaller, the film shorter, or the file larger.',
    )
  const film: FittedFilm = {
    ...{ chunks, rate, quality, speed, codec: deliveryOf(settings.format).picture! },
    out: await scratch.scratch('.fitted.mkv'),
    scratch: await scratch.scratch('.txt'),
    statistics: await scratch.scratch('.passes'),
  }
  let bitrate = (room * 8) / seconds
  const passes = 2
  const told = (before: number) => (drawn: number) => progress?.((before + drawn / frames) / passes)
  try {
    await fitPass(film, 1, bitrate, { signal, drawn: told(0) })
    for (let tries = 1; ; tries++) {
      await fitPass(film, 2, bitrate, { signal, drawn: told(1) })
      const came = (await stat(film.out)).size + beside
      const over = came > settings.maxBytes!
      if ((!over && came >= settings.maxBytes! * ENOUGH) || tries === TRIES) {
        if (!over) break
        throw new RenderFailed(
          `It came out at ${words(came)} instead of ${words(settings.maxBytes!)}: ` +
            'this codec could not be held to it. Make the picture smaller, or choose another kind of file.',
        )
      }
      const better = room / Math.max(came - beside, 1)
      // Encoders that have nothing left to spend bits on stay under whatever they are told.
      if (!over && tries > 1 && better > 1.5) break
      bitrate *= Math.min(Math.max(better, 0.5), 3)
    }
    return { path: film.out, frames }
  } finally {
    await forgetPasses(film)
  }
}
