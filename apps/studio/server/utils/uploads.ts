import { mkdirSync } from 'node:fs'
import { randomUUID } from 'node:crypto'
import { Server, type ServerOptions, type Upload } from '@tus/server'
import { z } from 'zod'
import { and, eq, isNull } from 'drizzle-orm'
import { shareUpload } from '@dusk/media'
import { BUCKET_AWAY, waitsFor } from '@dusk/media/faults'
import { announce, projects } from '@dusk/store'
import { HashingStore, noRoom, roomFor } from './hashingStore'
import { addPendingImport } from './pendingImports'
import { importArchive } from './importArchive'
import { bucketAway } from './problem'
import { useServices } from './services'

/** Largest file that is taken: 256 GiB. */
const MAX_SIZE = 256 * 1024 ** 3

const metadataSchema = z.object({
  assetId: z.uuid(),
  fileName: z.string().min(1).max(500),
  windowId: z.string().min(1).max(100),
  /** Missing for an archive, which becomes a project of its own. */
  projectId: z.uuid().optional(),
  /** A source that this file is given for: its own once more, or another in its place. */
  replaces: z.uuid().optional(),
})

let server: Server | null = null

/** What is answered to the request that completed an upload. */
type Finished = Awaited<ReturnType<NonNullable<ServerOptions['onUploadFinish']>>>

/** Uploads that are just being finished: a second request for one waits for the first. */
const finishing = new Map<string, Promise<Finished>>()

async function finishUpload(datastore: HashingStore, upload: Upload): Promise<Finished> {
  const { db, sql, queue, storage } = useServices()
  const { assetId, fileName, windowId, projectId, replaces } = metadataSchema.parse(upload.metadata)
  const path = storage.path('uploads', upload.id)
  await datastore.hasher.finish(upload.id, path, upload.size ?? 0)
  if (!projectId) {
    const result = await importArchive(path)
    return 'problem' in result
      ? { status_code: 422, body: result.problem }
      : { headers: { 'Dusk-Project': result.projectId } }
  }
  await shareUpload(storage, path).catch((error: unknown) => {
    throw waitsFor(error) === BUCKET_AWAY ? { status_code: 503, body: `${bucketAway().detail}\n` } : error
  })
  await addPendingImport(queue, db, {
    id: assetId,
    projectId,
    fileName,
    windowId,
    size: upload.size ?? 0,
    uploadPath: storage.nameOf(path),
    replaces: replaces ?? null,
  })
  await announce(sql, { kind: 'asset', projectId, assetId })
  return {}
}

/** Why a file is refused for which there is no room. */
function tooLargeFor(room: number, size: number, fileName: string): string {
  const [has, wants] = [room, size].map((bytes) => `${(bytes / 1e6).toFixed(bytes < 1e8 ? 1 : 0)} MB`)
  return `“${fileName}” has ${wants}, and the disk of the studio has room for ${has}. Free some and add it again.`
}

/** The tus server (resumable uploads, tus.io protocol 1.0). A finished upload becomes a job. */
export function uploadServer(): Server {
  if (server) return server
  const { db, storage } = useServices()
  const directory = storage.path('uploads')
  mkdirSync(directory, { recursive: true })
  const datastore = new HashingStore({ directory })
  const finish = (upload: Upload): Promise<Finished> => {
    const running = finishing.get(upload.id)
    if (running) return running
    const work = finishUpload(datastore, upload).finally(() => finishing.delete(upload.id))
    finishing.set(upload.id, work)
    return work
  }
  server = new Server({
    path: '/api/uploads',
    datastore,
    maxSize: MAX_SIZE,
    relativeLocation: true,
    namingFunction: () => randomUUID(),
    async onUploadCreate(_request, upload) {
      const parsed = metadataSchema.safeParse(upload.metadata)
      if (!parsed.success) throw { status_code: 422, body: 'The upload lacks its assetId, fileName or windowId.\n' }
      const { projectId, fileName } = parsed.data
      const room = await roomFor(directory)
      if ((upload.size ?? 0) > room) throw { ...noRoom, body: `${tooLargeFor(room, upload.size ?? 0, fileName)}\n` }
      if (projectId) {
        const [row] = await db
          .select({ id: projects.id })
          .from(projects)
          .where(and(eq(projects.id, projectId), isNull(projects.deletedAt)))
        if (!row) throw { status_code: 404, body: 'There is no such project.\n' }
      }
      return {}
    },
    async onUploadFinish(_request, upload) {
      return finish(upload)
    },
    // The last bytes may have come and the studio been killed before it did anything with them: whoever asks how far
    // the upload is, is told that it is complete, so what follows from that is done first.
    async onIncomingRequest(request, id) {
      if (request.method !== 'HEAD' || !id) return
      const upload = await datastore.getUpload(id).catch(() => null)
      if (upload && upload.offset === upload.size) await finish(upload)
    },
  })
  return server
}
