import { eq } from 'drizzle-orm'
import { copyProject } from '@dusk/timeline'
import { announce, assets } from '@dusk/store'

/** Makes a copy of a project; media are shared, not copied. */
export default defineApi(async (event) => {
  const id = idOf(event)
  const { db, sql, log } = useServices()
  const { project } = await log.read(id)
  const copy = copyProject(project, `${project.name.slice(0, 190)}, copy`)
  await log.create(copy.project)
  const rows = await db.select().from(assets).where(eq(assets.projectId, id))
  const copies = rows.flatMap((row) => {
    const assetId = copy.assets.get(row.id)
    return assetId && row.hash ? [{ ...row, id: assetId, projectId: copy.project.id }] : []
  })
  if (copies.length > 0) await db.insert(assets).values(copies)
  await announce(sql, { kind: 'projects' })
  setResponseStatus(event, 201)
  return { id: copy.project.id }
})
