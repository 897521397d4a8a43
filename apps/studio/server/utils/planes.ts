import { once } from 'node:events'
import { Readable } from 'node:stream'
import type { H3Event } from 'h3'
import { smallFrames } from '@dusk/media/planes'
import { sayWaiting, WAITING_FILE } from '@dusk/media/standBack'
import { ToolError } from '@dusk/media/tool'
import { frameCount, type SourceMetadata } from '@dusk/timeline'
import { z } from 'zod'
import { Problem, queryOf } from './problem'
import { useServices } from './services'

/** Decoders that run at once for previews without a proxy; more are refused until some have ended. */
const MOST = 12
let running = 0

const querySchema = z.object({
  /** Number of the first frame. */
  from: z.coerce.number().int().min(0),
  /** Frames at most; all to the end without it. */
  count: z.coerce.number().int().min(1).optional(),
  /** Pixels of the longer side at most. */
  longest: z.coerce.number().int().min(64).max(960).default(960),
})

/**
 * Sends frames of an original at the size of its proxy, as 4:2:0 planes one after the other, as fast as they are taken.
 * Their size is in the headers `dusk-width` and `dusk-height`.
 * @throws Problem 404 beyond the last frame, 503 while too many are decoded
 */
export async function sendPlanes(event: H3Event, path: string, metadata: SourceMetadata): Promise<void> {
  const { from, count, longest } = queryOf(event, querySchema)
  const last = frameCount(metadata.table!) - 1
  if (from > last) throw new Problem(404, 'Not found', `The last frame is number ${last}.`)
  if (running >= MOST) throw new Problem(503, 'Busy', 'Too many originals are being read at once. Try again.')
  await sayWaiting(useServices().storage.path(WAITING_FILE))
  const { width, height, reader } = smallFrames(path, metadata, from, longest)
  running++
  let ended = false
  const end = () => {
    if (ended) return
    ended = true
    running--
    void reader.close()
  }
  try {
    const stream = Readable.from(frames(), { objectMode: false })
    stream.once('close', end)
    event.node.res.once('close', () => stream.destroy())
    const lasting = 'private, max-age=31536000, immutable'
    setHeaders(event, {
      'content-type': 'application/octet-stream',
      'cache-control': count === 1 ? lasting : 'no-store',
      'dusk-width': String(width),
      'dusk-height': String(height),
    })
    // Whoever goes away in the middle ends it without the stream's own end.
    await Promise.race([sendStream(event, stream), once(stream, 'close')])
  } catch (error) {
    if (!(error instanceof ToolError)) throw error
    throw new Problem(422, 'Not decoded', `Frame ${from} can’t be decoded: the file may be damaged there.`)
  } finally {
    end()
  }

  async function* frames(): AsyncGenerator<Buffer> {
    for (let left = count ?? Infinity; left > 0 && !ended; left--) {
      const frame = await reader.read()
      if (!frame) return
      yield frame
    }
  }
}
