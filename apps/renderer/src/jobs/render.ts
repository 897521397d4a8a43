import { and, eq, inArray, not, or, sql } from 'drizzle-orm'
import {
  announce,
  listen,
  provenHardware,
  renders,
  type Job,
  type RenderProgress,
  type RenderSettings,
} from '@dusk/store'
import { openDocument } from '@dusk/timeline'
import { deliveryOf, HARDWARE_ENCODERS, hardwareSchema, type DeliveryId } from '@dusk/interchange'
import { makeSmallPicture, runTool, zippedFile, type Storage } from '@dusk/media'
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

/** Pixels of the picture that stands for a render, and where in it that is taken, as a part of its length. */
const POSTER_HEIGHT = 240
const POSTER_PLACE = 0.3

/** Takes a picture out of a finished file; a render without one is none the worse. */
async function takePoster(
  storage: Storage,
  { id: renderId, settings }: { id: string; settings: RenderSettings },
  seconds: number,
  signal: AbortSignal,
): Promise<void> {
  const { kind } = deliveryOf(settings.format)
  if (kind === 'sound') return
  const scratch = await storage.scratch('.jpg')
  try {
    const path = renderPath(storage, renderId, settings.format)
    if (kind === 'film') {
      const from = ['-v', 'error', '-nostdin', '-y', '-ss', String(seconds * POSTER_PLACE), '-i', path]
      const small = ['-frames:v', '1', '-vf', `scale=-2:${POSTER_HEIGHT}`, '-q:v', '4', scratch]
      await runTool('ffmpeg', [...from, ...small], { signal })
    } else {
      const from = kind === 'pictures' ? await zippedFile(path, POSTER_PLACE) : path
      await makeSmallPicture(from, scratch, POSTER_HEIGHT)
    }
    await storage.publish(scratch, renderPosterPath(storage, renderId))
  } catch (error) {
    signal.throwIfAborted()
    console.error(`The picture of render ${renderId} could not be taken: ${(error as Error).message}`)
  }
}

/** Times that a render is looked for while other workers take those that are found. */
const LOOKS = 20

/** Which hardware a render is to be encoded by. */
const ASKED = sql<string>`${renders.settings} ->> 'hardware'`

/**
 * Makes the render that is first in the order of those that wait, whichever the job was sent for. Those for hardware
 * that another worker has, and this one has not, are left to it.
 */
export async function runRender(context: Context): Promise<void> {
  const { db } = context.connection
  const own = context.hardware.encoders
  const elsewhere = (await provenHardware(db)).filter((id) => !own.includes(id))
  const others = elsewhere.length > 0 ? or(sql`${ASKED} is null`, not(inArray(ASKED, elsewhere))) : undefined
  for (let i = 0; i < LOOKS; i++) {
    const [first] = await db
      .select({ id: renders.id, attempt: renders.attempt })
      .from(renders)
      .where(and(eq(renders.state, 'waiting'), others))
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
        const asked = hardwareSchema.nullish().parse(row.settings.hardware)
        // A worker that has only just begun may still be at it.
        if (asked) await context.hardware.tried
        if (asked && !context.hardware.encoders.includes(asked))
          throw new RenderFailed(
            `No worker can encode by ${HARDWARE_ENCODERS[asked].label} any more. ` +
              'Render it again with changes, encoded by the processors.',
          )
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
          // Chips of other machines make other bytes, which can't be joined.
          share: asked ? undefined : (render) => shareRender(context, row, render),
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
