import { eq } from 'drizzle-orm'
import { takePicture } from '@dusk/media'
import { announce, renders, type Claim, type Job } from '@dusk/store'
import { Place, PlaceAway, PlaceRefused } from '../posting/place'
import { renderPath } from './render'
import { runClaimed, WorkLost } from './claimed'
import type { Context } from './context'

/** How often progress is written, in milliseconds. */
const TELL_MS = 400
/** Height of a thumbnail out of the film. */
const THUMBNAIL_HEIGHT = 720

/** Sends a finished render to the place it is for, or the rest of it, and lets it be seen there. */
export async function postFilm(context: Context, job: Job): Promise<void> {
  const { connection, storage } = context
  const { db, sql } = connection

  await runClaimed(context, 'post', job, {
    async run(claim, signal) {
      const { row } = claim
      const place = placeOf(row.place)
      const [render] = await db.select().from(renders).where(eq(renders.id, row.renderId))
      if (!render) throw new WorkLost()
      const path = renderPath(storage, render.id, render.settings.format)
      if (!(await storage.fetch(path))) throw new PlaceRefused('The file of this render is not there any more.', 404)
      const tell = () => announce(sql, { kind: 'render', projectId: render.projectId, renderId: render.id })
      const taken = new AbortController()
      const ended = AbortSignal.any([signal, taken.signal])
      // One after the other: what is known last is to be what the row says last.
      let writing: Promise<void> = Promise.resolve()
      const write = (patch: Parameters<typeof claim.write>[0]) => {
        const next = async () => {
          if (!(await claim.write(patch))) taken.abort(new WorkLost())
          await tell()
        }
        return (writing = writing.catch(() => {}).then(next))
      }
      await tell()
      let { remote } = row
      let toldAt = 0
      const told = (sent: number, upload: string | null) => {
        const known = remote!.upload === upload
        if (known && Date.now() - toldAt < TELL_MS) return
        toldAt = Date.now()
        remote = { ...remote!, upload }
        void write({ remote, ...(known ? { sent } : {}), heartbeatAt: new Date() }).catch(() => {})
      }
      const start = async () => {
        const id = await place.begin({ ...row.words, file: row.file }, ended)
        remote = { id, upload: null }
        await write({ remote, sent: 0 })
      }
      try {
        if (!remote) await start()
        await place.send(remote!.id, path, remote!.upload, told, ended).catch(async (error) => {
          // What was begun there is gone, as after a long while: from the beginning, once.
          if (!row.remote || !(error instanceof PlaceRefused) || error.status !== 404) throw error
          await start()
          await place.send(remote!.id, path, null, told, ended)
        })
        await write({ sent: row.file.bytes })
        // Last, and each time: whoever goes on for another worker does not know whether it was there.
        const picture = await thumbnail(row, path, ended)
        if (picture) await place.setThumbnail(remote!.id, picture.kind, picture.bytes, ended)
        const page = await place.show(remote!.id, ended)
        await write({ state: 'ready', page, message: null, endedAt: new Date() })
      } catch (error) {
        const sent = remote?.upload ? await place.arrived(remote.upload) : null
        if (sent !== null) await write({ sent })
        throw taken.signal.aborted ? new WorkLost() : error
      }
    },
    tell: tellOf,
    async fail(claim, message) {
      await claim.write({ state: 'failed', message, endedAt: new Date() })
      await tellOf(claim)
    },
    final: (error) => (error instanceof PlaceRefused ? error.message : null),
    awaits: (error) => (error instanceof PlaceAway ? `${error.message} It goes on by itself once that is over.` : null),
  })

  async function tellOf({ row }: Claim<'post'>): Promise<void> {
    const [render] = await db.select({ projectId: renders.projectId }).from(renders).where(eq(renders.id, row.renderId))
    if (render) await announce(sql, { kind: 'render', projectId: render.projectId, renderId: row.renderId })
  }
}

function placeOf(name: string): Place {
  const { DUSK_BOARD: origin, DUSK_BOARD_KEY: key } = process.env
  if (!origin || !key)
    throw new PlaceRefused('This worker knows no place to post to: DUSK_BOARD and DUSK_BOARD_KEY say where it is.', 404)
  return new Place(origin, key, name)
}

/** The picture that stands for the film, with its media type. */
async function thumbnail({ thumbnail, picture, file }: Claim<'post'>['row'], path: string, signal: AbortSignal) {
  if (!thumbnail) return null
  if ('kind' in thumbnail) return picture && { kind: thumbnail.kind, bytes: picture }
  // There is no picture at the very end any more.
  const at = Math.max(0, Math.min(thumbnail.at, file.seconds - 0.1))
  return { kind: 'image/jpeg', bytes: await takePicture(path, at, THUMBNAIL_HEIGHT, signal) }
}
