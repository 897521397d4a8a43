import { words } from './arguments'
import type { PictureEncoding } from './delivery/pictureArgs'
import { chunkArgs, padChunk } from './encoder'
import { FRAME_PROGRESS_ARGS, frameProgress } from './frameProgress'
import { decodingArgs, type PictureSource } from './frameReader'
import { inputArgs, runTool } from './tool'

/** Frames of a source that follow each other at equal steps. */
export interface SourceSpan {
  /** Number of the first one. */
  first: number
  /** How many. */
  count: number
  /** Frames of the source from each to the next, from 1. */
  step: number
  /** The first one is known to stand by itself. */
  key?: boolean
}

/** A source of which no frame could be decoded where a span of it begins. */
export class NothingDecoded extends Error {
  constructor() {
    super('None of the frames could be decoded.')
    this.name = 'NothingDecoded'
  }
}

/**
 * What frames say of themselves is taken from them: they are encoded as those that come in raw. Where the source ends
 * early its last frame stays.
 */
function likeRaw({ rate: { num, den } }: PictureEncoding): string[] {
  return [
    ...['setparams=field_mode=prog:range=unknown:color_primaries=unknown:color_trc=unknown:colorspace=unknown'],
    ...['setsar=0', 'sidedata=delete', `settb=${den}/${num}`, 'setpts=N', `fps=${num}/${den}`],
    'tpad=stop=-1:stop_mode=clone',
  ]
}

/**
 * Decodes frames of a source and encodes them to a chunk, by one process: picture by picture the chunk that a
 * reader's frames make when they are handed to an encoder, without two copies of each on the way.
 * @param path of the source
 * @param options.encoded called with the number of frames that are encoded so far
 * @throws {NothingDecoded} where there are none; {ToolError} when it fails
 */
export async function transcodeSpan(
  path: string,
  source: PictureSource,
  { first, count, step, key, out }: SourceSpan & { out: string },
  encoding: PictureEncoding,
  options: { signal?: AbortSignal; encoded?: (frames: number) => void } = {},
): Promise<void> {
  const reading = decodingArgs(source, first, step, key)
  const encoded = chunkArgs(encoding)
  const filters = [...reading.chain, ...likeRaw(encoding), ...encoded.filters]
  let frames = 0
  await runTool(
    'ffmpeg',
    [
      ...words(encoded.before, reading.before, '-y', inputArgs(path), '-map', [`0:${source.videoIndex}`]),
      ...words('-map_metadata -1 -map_chapters -1 -an -sn -dn -vf', [filters.join(',')]),
      ...words('-frames:v', [String(count)], '-disposition:v 0', encoded.after, [out]),
      ...FRAME_PROGRESS_ARGS,
    ],
    {
      signal: options.signal,
      onLine: frameProgress((found) => {
        frames = found
        options.encoded?.(found)
      }),
    },
  )
  if (frames === 0) throw new NothingDecoded()
  await padChunk(encoding, out)
}
