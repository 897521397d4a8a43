import { mkdirSync } from 'node:fs'
import { randomUUID } from 'node:crypto'
import { Server } from '@tus/server'
import { z } from 'zod'
import { and, eq, isNull } from 'drizzle-orm'
import { announce, projects } from '@dusk/store'
import { HashingStore } from './hashingStore'
import { addPendingImport } from './pendingImports'
import { importArchive } from './importArchive'
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

/** The tus server (resumable uploads, tus.io protocol 1.0). A finished upload becomes a job. */
export function uploadServer(): Server {
  if (server) return server
  const { db, sql, queue, storage } = useServices()
  const directory = storage.path('uploads')
  mkdirSync(directory, { recursive: true })
  const datastore = new HashingStore({ directory })
  server = new Server({
    path: '/api/uploads',
    datastore,
    maxSize: MAX_SIZE,
    relativeLocation: true,
    namingFunction: () => randomUUID(),
    async onUploadCreate(_request, upload) {
      const parsed = metadataSchema.safeParse(upload.metadata)
      if (!parsed.success) throw { status_code: 422, body: 'The upload lacks its assetId, fileName or windowId.\n' }
      const { projectId } = parsed.data
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
      const { assetId, fileName, windowId, projectId, replaces } = metadataSchema.parse(upload.metadata)
      const path = storage.path('uploads', upload.id)
      await datastore.hasher.finish(upload.id, path, upload.size ?? 0)
      if (!projectId) {
        const result = await importArchive(path)
        return 'problem' in result
          ? { status_code: 422, body: result.problem }
          : { headers: { 'Dusk-Project': result.projectId } }
      }
      await addPendingImport(queue, db, {
        id: assetId,
        projectId,
        fileName,
        windowId,
        size: upload.size ?? 0,
        uploadPath: path,
        replaces: replaces ?? null,
      })
      await announce(sql, { kind: 'asset', projectId, assetId })
      return {}
    },
  })
  return server
}
