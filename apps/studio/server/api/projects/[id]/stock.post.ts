import { copyFile, mkdir, stat } from 'node:fs/promises'
import { z } from 'zod'
import { shareUpload } from '@dusk/media'
import { announce } from '@dusk/store'

const schema = z.object({ name: z.string().max(100), windowId: z.string().min(1).max(100) })

/** Puts a thing of the stock into a project's library, as if it had been uploaded. */
export default defineApi(async (event) => {
  const projectId = idOf(event)
  const { name, windowId } = await bodyOf(event, schema)
  const { item, path } = await stockFile(name)
  const { db, sql, log, queue, storage } = useServices()
  await log.read(projectId)
  const id = crypto.randomUUID()
  const uploadPath = storage.path('uploads', id)
  await mkdir(storage.path('uploads'), { recursive: true })
  await copyFile(path, uploadPath)
  await shareUpload(storage, uploadPath)
  const { size } = await stat(path)
  const pending = { id, projectId, fileName: item.name, windowId, size, uploadPath: storage.nameOf(uploadPath) }
  await addPendingImport(queue, db, pending)
  await announce(sql, { kind: 'asset', projectId, assetId: id })
  setResponseStatus(event, 201)
  return { id }
})
