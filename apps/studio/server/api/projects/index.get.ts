import { desc, isNull } from 'drizzle-orm'
import { projects } from '@dusk/store'

/** Projects, the one edited last first. */
export default defineApi(async () => {
  const { db } = useServices()
  const rows = await db
    .select({
      id: projects.id,
      name: projects.name,
      length: projects.length,
      posterAsset: projects.posterAsset,
      editedAt: projects.editedAt,
    })
    .from(projects)
    .where(isNull(projects.deletedAt))
    .orderBy(desc(projects.editedAt))
    .limit(500)
  const found = await posters(rows.flatMap(({ posterAsset }) => posterAsset ?? []))
  return {
    projects: rows.map(({ posterAsset, ...row }) => ({
      ...row,
      poster: (posterAsset && found.get(posterAsset)) || null,
    })),
  }
})
