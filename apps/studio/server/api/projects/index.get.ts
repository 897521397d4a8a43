import { desc, eq, isNull, sql } from 'drizzle-orm'
import { assets, media, projects } from '@dusk/store'

/** Projects, the one edited last first. */
export default defineApi(async () => {
  const { db } = useServices()
  const rows = await db
    .select({
      id: projects.id,
      name: projects.name,
      length: projects.length,
      // Only once there is a film strip to show.
      posterAsset: sql<
        string | null
      >`case when ${media.facts} ->> 'strip' is not null then ${projects.posterAsset} end`,
      editedAt: projects.editedAt,
    })
    .from(projects)
    .leftJoin(assets, eq(assets.id, projects.posterAsset))
    .leftJoin(media, eq(media.hash, assets.hash))
    .where(isNull(projects.deletedAt))
    .orderBy(desc(projects.editedAt))
    .limit(500)
  return { projects: rows }
})
