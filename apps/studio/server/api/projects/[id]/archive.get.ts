import { eq } from 'drizzle-orm'
import { writeArchive } from '@dusk/media'
import { assets } from '@dusk/store'

/** The project with its media as a `.duskreel` archive. */
export default defineApi(async (event) => {
  const id = idOf(event)
  const { db, log, storage } = useServices()
  const { project } = await log.read(id)
  const rows = await db.select().from(assets).where(eq(assets.projectId, id))
  const media: Record<string, { hash: string; fileName: string }> = {}
  for (const row of rows)
    if (row.hash && project.assets[row.id]) media[row.id] = { hash: row.hash, fileName: row.fileName }
  setHeader(event, 'content-type', 'application/zip')
  setHeader(
    event,
    'content-disposition',
    `attachment; filename*=UTF-8''${encodeURIComponent(`${project.name}.duskreel`)}`,
  )
  return sendStream(event, writeArchive({ project, media }, storage))
})
