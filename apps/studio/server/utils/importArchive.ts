import { stat } from 'node:fs/promises'
import { eq } from 'drizzle-orm'
import { readArchive, removeFile } from '@dusk/media'
import { copyProject } from '@dusk/timeline'
import { announce, assets, media } from '@dusk/store'
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
    await log.create(project)
    for (const [old, id] of ids) {
      const { hash, fileName } = manifest.media[old]!
      const size = (await stat(storage.original(hash))).size
      const [known] = await db.select({ hash: media.hash }).from(media).where(eq(media.hash, hash))
      await db.insert(assets).values({
        id,
        projectId: project.id,
        fileName,
        windowId: 'import',
        size,
        hash: known ? hash : null,
        state: known ? 'taken' : 'examining',
        uploadPath: known ? null : storage.original(hash),
      })
      if (!known) await queue.send('examine', { assetId: id })
    }
    await announce(sql, { kind: 'projects' })
    return { projectId: project.id }
  } catch (error) {
    return { problem: (error as Error).message }
  } finally {
    await removeFile(path)
    await removeFile(`${path}.json`)
  }
}
