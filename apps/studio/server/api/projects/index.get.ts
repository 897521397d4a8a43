import { desc, isNull } from 'drizzle-orm'
import { projects } from '@dusk/store'

/** Milliseconds after which a poster that could not be drawn, as while sources are read in, is asked for again. */
const AGAIN_MS = 30_000
/** The posters that this process asked for last, by project. */
const asked = new Map<string, { seq: number; at: number }>()

/** Projects, the one edited last first. Posters that are older than the last edit are asked for. */
export default defineApi(async () => {
  const { db, queue } = useServices()
  const rows = await db
    .select({
      id: projects.id,
      name: projects.name,
      length: projects.length,
      posterAsset: projects.posterAsset,
      posterSeq: projects.posterSeq,
      seq: projects.seq,
      editedAt: projects.editedAt,
    })
    .from(projects)
    .where(isNull(projects.deletedAt))
    .orderBy(desc(projects.editedAt))
    .limit(500)
  for (const { id, seq, posterSeq } of rows) {
    const last = asked.get(id)
    if (seq === posterSeq || (last?.seq === seq && Date.now() - last.at < AGAIN_MS)) continue
    asked.set(id, { seq, at: Date.now() })
    await queue.send('poster', { id, attempt: seq })
  }
  const found = await posters(rows.flatMap(({ posterAsset }) => posterAsset ?? []))
  return {
    projects: rows.map(({ posterAsset, posterSeq, seq, ...row }) => ({
      ...row,
      posterUrl: posterSeq === null ? null : `/api/projects/${row.id}/poster?seq=${posterSeq}`,
      poster: (posterAsset && found.get(posterAsset)) || null,
    })),
  }
})
