import { writeFile } from 'node:fs/promises'
import type { PictureCodec } from '@dusk/interchange'
import type { Rate } from '@dusk/timeline'
import { FRAME_PROGRESS_ARGS, frameProgress } from '../frameProgress'
import { chunkList, listInput, type ChunkFile } from '../join'
import { removeFile } from '../storage'
import { runTool } from '../tool'
import { twoPassArgs, type EncoderSpeed, type Quality } from './pictureArgs'

/** A film that is encoded so that it comes out at a size. */
export interface FittedFilm {
  /** Its pictures, as good as unchanged. */
  chunks: readonly ChunkFile[]
  rate: Rate
  codec: PictureCodec
  quality: Quality
  speed?: EncoderSpeed
  /** Where its pictures go: a Matroska file. */
  out: string
  /** A path for the list of chunks, and one for what the first pass found out. */
  scratch: string
  statistics: string
}

/**
 * Encodes pictures in two passes: the first looks at all of them, the second shares the bits out by what each needs.
 * @param bitrate bits a second in the mean
 * @param pass 1 looks, 2 encodes; what was found out stays good for another bitrate
 * @param drawn hears how many frames of the pass are done
 */
export async function fitPass(
  film: FittedFilm,
  pass: 1 | 2,
  bitrate: number,
  { signal, drawn }: { signal?: AbortSignal; drawn?: (frames: number) => void } = {},
): Promise<void> {
  const { chunks, rate, scratch, out } = film
  await writeFile(scratch, chunkList(chunks, rate))
  const pace = ['-r', `${rate.num}/${rate.den}`]
  const told = [...FRAME_PROGRESS_ARGS, '-nostats']
  const target = pass === 1 ? ['-f', 'null', '-'] : ['-f', 'matroska', out]
  await runTool(
    'ffmpeg',
    [
      ...['-v', 'error', '-nostdin', '-y', ...told, ...pace, ...listInput(scratch), '-map', '0:v:0'],
      ...[...twoPassArgs({ ...film, bitrate, pass, statistics: film.statistics }), ...target],
    ],
    {
      signal,
      onLine: frameProgress((frames) => drawn?.(frames)),
    },
  )
}

/** Removes what the first pass wrote down. */
export async function forgetPasses({ statistics, scratch }: FittedFilm): Promise<void> {
  const endings = ['', '-0.log', '-0.log.mbtree', '.cutree', '.mbtree', '-0.log.temp']
  await Promise.all([scratch, ...endings.map((ending) => `${statistics}${ending}`)].map((path) => removeFile(path)))
}
