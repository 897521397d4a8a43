import { eq } from 'drizzle-orm'
import { writeArchive } from '@dusk/media'
import { assets } from '@dusk/store'
import { z } from 'zod'

const querySchema = z.object({
  /** Saved without the files that are missing, instead of not at all. */
  lacking: z.literal('1').optional(),
  /** Says whether it could be saved, and does no more. */
  look: z.literal('1').optional(),
})

/** The project with its media as a `.duskreel` archive. @throws Problem 409 naming the sources whose files are gone */
export default defineApi(async (event) => {
  const id = idOf(event)
  const { lacking, look } = queryOf(event, querySchema)
  const { db, log, storage } = useServices()
  const { project } = await log.read(id)
  const rows = await db.select().from(assets).where(eq(assets.projectId, id))
  const media: Record<string, { hash: string; fileName: string }> = {}
  for (const row of rows)
    if (row.hash && project.assets[row.id] && (await storage.has(storage.original(row.hash))))
      media[row.id] = { hash: row.hash, fileName: row.fileName }
  const gone = Object.values(project.assets).filter((asset) => !media[asset.id])
  if (gone.length > 0 && !lacking) {
    const names = gone.slice(0, 5).map((asset) => asset.name)
    const more = gone.length > names.length ? ` and ${gone.length - names.length} more` : ''
    throw new Problem(
      409,
      'Files are missing',
      `The archive would lack the ${gone.length === 1 ? 'file' : 'files'} of ${names.join(', ')}${more}.`,
    )
  }
  if (look) return { complete: gone.length === 0 }
  setHeader(event, 'content-type', 'application/zip')
  setHeader(
    event,
    'content-disposition',
    `attachment; filename*=UTF-8''${encodeURIComponent(`${project.name}.duskreel`)}`,
  )
  return sendStream(event, await writeArchive({ project, media }, storage))
})
