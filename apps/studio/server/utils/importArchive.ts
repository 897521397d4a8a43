import { stat } from 'node:fs/promises'
import { readArchive, removeUpload } from '@dusk/media'
import { copyProject } from '@dusk/timeline'
import { announce, assets } from '@dusk/store'
import { useServices } from './services'

/**
 * Makes a project from an uploaded archive. Its media go through the same examination as any upload; those already
 * here are ready at once.
 */
export async function importArchive(path: string): Promise<{ projectId: string } | { problem: string }> {
  const { db, sql, log, queue, storage } = useServices()
  try {
    const manifest = await readArchive(path, storage)
    const { project, assets: ids } = copyProject(manifest.project, manifest.project.name)
    const rows: (typeof assets.$inferInsert)[] = []
    for (const [old, id] of ids) {
      const file = manifest.media[old]
      if (!file) {
        const fileName = manifest.project.assets[old]!.name
        const lost = { state: 'failed' as const, message: 'Its file was missing when the archive was saved.' }
        rows.push({
          id,
          projectId: project.id,
          fileName,
          windowId: 'import',
          size: 0,
          hash: null,
          ...lost,
          dismissed: true,
        })
        continue
      }
      const { hash, fileName } = file
      const { size } = await stat(storage.original(hash))
      rows.push({ id, projectId: project.id, fileName, windowId: 'import', size, hash: null, state: 'waiting' })
      rows.at(-1)!.uploadPath = storage.nameOf(storage.original(hash))
    }
    await db.transaction(async (tx) => {
      await log.create(project, tx)
      if (rows.length > 0) await tx.insert(assets).values(rows.map((row) => ({ ...row, heartbeatAt: new Date() })))
      for (const { id, state } of rows) if (state === 'waiting') await queue.send('probe', { id, attempt: 0 }, tx)
    })
    await announce(sql, { kind: 'projects' })
    return { projectId: project.id }
  } catch (error) {
    return { problem: (error as Error).message }
  } finally {
    await removeUpload(storage, path)
  }
}
