import { words } from '../arguments'
import { FRAME_PROGRESS_ARGS, frameProgress } from '../frameProgress'
import { keySeekTime } from '../frames'
import { inputArgs, runTool } from '../tool'
import type { CopyableFilm } from './copyableFilm'

/**
 * Copies coded pictures of a film to a chunk, a transport stream. Whether they are the ones that were meant is seen
 * when chunks are joined.
 * @param first number of the first frame, `count` how many; both ends stand by themselves
 * @param options.copied called with the number of pictures that are copied so far
 */
export async function copySpan(
  { path, metadata }: Pick<CopyableFilm, 'path' | 'metadata'>,
  { first, count, out }: { first: number; count: number; out: string },
  options: { signal?: AbortSignal; copied?: (pictures: number) => void } = {},
): Promise<void> {
  const { table, zero, start, videoIndex } = metadata
  const at = first > 0 ? words('-ss', [keySeekTime(table!, zero, start, first).toFixed(6)]) : []
  await runTool(
    'ffmpeg',
    [
      ...words('-v error -nostdin -y', at, inputArgs(path), '-map', [`0:${videoIndex}`], '-c copy -map_metadata -1'),
      ...words('-frames:v', [String(count)], '-muxdelay 0 -muxpreload 0 -f mpegts', [out]),
      ...FRAME_PROGRESS_ARGS,
    ],
    { signal: options.signal, onLine: frameProgress((pictures) => options.copied?.(pictures)) },
  )
}
