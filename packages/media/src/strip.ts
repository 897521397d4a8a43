import { z } from 'zod'
import { frameCount, frameStart, tableLength, TICKS_PER_SECOND, type FrameTable } from '@dusk/timeline'
import { words } from './arguments'
import { inputArgs, runTool } from './tool'

/** A film strip: small pictures at even steps, in rows on one sheet. Times are source times in ticks. */
export const stripInfoSchema = z.object({
  tileWidth: z.int(),
  tileHeight: z.int(),
  columns: z.int(),
  times: z.array(z.int()),
})
export type StripInfo = z.infer<typeof stripInfoSchema>

/** Height of its pictures in pixels. */
export const STRIP_HEIGHT = 72
/** Most pixels of one in width: sheets have to stay within what JPEG can hold, however wide a picture is. */
const MOST_WIDTH = 640

/** Width of a strip's pictures, an even number; very wide ones are squeezed. */
export function stripWidth({ width, height }: { width: number; height: number }): number {
  return Math.min(MOST_WIDTH, Math.max(2, Math.round((STRIP_HEIGHT * width) / height / 2) * 2))
}

/** Most pictures on a strip. */
const MOST_TILES = 160

/** Draws the film strip of a proxy, at most 160 pictures of 72 pixels height, as a JPEG sheet. */
export async function makeStrip(
  proxy: string,
  table: FrameTable,
  size: { width: number; height: number },
  out: string,
  signal?: AbortSignal,
): Promise<StripInfo> {
  const frames = frameCount(table)
  const wanted = Math.min(MOST_TILES, Math.max(1, Math.ceil(tableLength(table) / (TICKS_PER_SECOND / 2))))
  const step = Math.max(1, Math.round(frames / wanted))
  const count = Math.ceil(frames / step)
  const columns = Math.min(count, 16)
  const tileWidth = stripWidth(size)
  const filter =
    `select='not(mod(n,${step}))',scale=${tileWidth}:${STRIP_HEIGHT}:flags=area,` +
    `tile=${columns}x${Math.ceil(count / columns)}`
  await runTool(
    'ffmpeg',
    [
      ...words('-v error -nostdin -y', inputArgs(proxy), '-an -vf', [filter]),
      ...words('-frames:v 1 -q:v 4 -f image2 -update 1', [out]),
    ],
    { signal, timeout: 3_600_000 },
  )
  return {
    tileWidth,
    tileHeight: STRIP_HEIGHT,
    columns,
    times: Array.from({ length: count }, (_, i) => frameStart(table, i * step)),
  }
}
