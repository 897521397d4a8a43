import { eq } from 'drizzle-orm'
import { announce, listen, renders, type Job, type RenderProgress, type RenderSettings } from '@dusk/store'
import { openDocument } from '@dusk/timeline'
import { deliveryOf, type DeliveryId } from '@dusk/interchange'
import { makeSmallPicture, runTool, type Storage } from '@dusk/media'
import { renderReel } from '../render/renderReel'
import { RenderFailed } from '../render/request'
import { runClaimed } from './claimed'
import type { Context } from './context'
import { awaitMadeFrames } from './madeFrames'
import { shareRender } from './shareRender'
import { sourceBook } from './sourceBook'

/** Path of a finished render, whose ending says what it is. */
export function renderPath(storage: Storage, renderId: string, format: DeliveryId | undefined): string {
  return storage.path('renders', `${renderId}.${deliveryOf(format).ending}`)
}

/** Path of the picture that stands for a finished render. */
export function renderPosterPath(storage: Storage, renderId: string): string {
  return storage.path('renders', `${renderId}.jpg`)
}

/** Pixels of the picture that stands for a render. */
const POSTER_HEIGHT = 240

/** Takes a picture out of a finished file; a render without one is none the worse. */
async function takePoster(
  storage: Storage,
  { id: renderId, settings }: { id: string; settings: RenderSettings },
  seconds: number,
  signal: AbortSignal,
): Promise<void> {
  const { kind } = deliveryOf(settings.format)
  if (kind === 'pictures' || kind === 'sound') return
  const scratch = await storage.scratch('.jpg')
  try {
    const path = renderPath(storage, renderId, settings.format)
    if (kind === 'film') {
      const from = ['-v', 'error', '-nostdin', '-y', '-ss', String(seconds * 0.3), '-i', path]
      const small = ['-frames:v', '1', '-vf', `scale=-2:${POSTER_HEIGHT}`, '-q:v', '4', scratch]
      await runTool('ffmpeg', [...from, ...small], { signal })
    } else await makeSmallPicture(path, scratch, POSTER_HEIGHT)
    await storage.publish(scratch, renderPosterPath(storage, renderId))
  } catch (error) {
    signal.throwIfAborted()
    console.error(`The picture of render ${renderId} could not be taken: ${(error as Error).message}`)
  }
}

/** Times that a render is looked for while other workers take those that are found. */
const LOOKS = 20

/** Makes the render that is first in the order of those that wait, whichever the job was sent for. */
export async function runRender(context: Context): Promise<void> {
  for (let i = 0; i < LOOKS; i++) {
    const [first] = await context.connection.db
      .select({ id: renders.id, attempt: renders.attempt })
      .from(renders)
      .where(eq(renders.state, 'waiting'))
      .orderBy(renders.place, renders.createdAt)
      .limit(1)
    if (!first || (await makeRender(context, first))) return
  }
}

/**
 * Makes a render. A cancel, a pause, or another worker that took it over, ends it at once.
 * @returns whether it was there to be made
 */
async function makeRender(context: Context, job: Job): Promise<boolean> {
  const { connection, storage } = context
  const { sql } = connection
  return runClaimed(context, 'render', job, {
    async run(claim, signal) {
      const { row } = claim
      const tell = (ended?: 'ready') =>
        announce(sql, { kind: 'render', projectId: row.projectId, renderId: row.id, ended })
      const cancel = new AbortController()
      const unlisten = await listen(connection, (event) => {
        if (event.kind === 'cancel' && event.renderId === row.id) cancel.abort(new Error('cancelled'))
      })
      const progress = (value: RenderProgress) =>
        void claim
          .write({ progress: value, heartbeatAt: new Date() })
          .then(() => tell())
          .catch(() => {})
      try {
        await claim.write({ startedAt: new Date() })
        await tell()
        const project = openDocument(row.document)
        const ended = AbortSignal.any([signal, cancel.signal])
        const book = await sourceBook(connection, project)
        await awaitMadeFrames(context, project, book, {
          signal: ended,
          progress: (part) =>
            progress({ stage: 'between', framesDone: Math.round(part * 100), frames: 100, secondsLeft: null }),
        })
        const report = await renderReel({
          project,
          reelId: row.reelId,
          settings: row.settings,
          book,
          storage,
          out: renderPath(storage, row.id, row.settings.format),
          share: (render) => shareRender(context, row, render, ended),
          signal: ended,
          progress,
        })
        await takePoster(storage, row, report.seconds, ended)
        await claim.write({ state: 'ready', report, endedAt: new Date(), message: null })
        await tell('ready')
      } catch (error) {
        if (!cancel.signal.aborted) throw error
      } finally {
        await unlisten()
      }
    },
    tell: ({ row }) => announce(sql, { kind: 'render', projectId: row.projectId, renderId: row.id }),
    async fail(claim, message) {
      await claim.write({ state: 'failed', message, endedAt: new Date() })
      await announce(sql, { kind: 'render', projectId: claim.row.projectId, renderId: claim.row.id, ended: 'failed' })
    },
    final: (error) => (error instanceof RenderFailed ? error.message : null),
  })
}
