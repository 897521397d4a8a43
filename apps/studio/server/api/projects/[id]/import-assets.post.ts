import { and, eq, inArray } from 'drizzle-orm'
import { z } from 'zod'
import { announce, assets } from '@dusk/store'

const schema = z.object({ fromProject: z.uuid(), assetIds: z.array(z.uuid()).min(1).max(1000) })

/**
 * Brings sources of another project into this one; files are shared, not copied. A file that is already here under
 * another id is not brought in twice.
 */
export default defineApi(async (event) => {
  const id = idOf(event)
  const { fromProject, assetIds } = await bodyOf(event, schema)
  const { db, sql, log } = useServices()
  const [{ project }, other] = [await log.read(id), await log.read(fromProject)]
  const rows = await db
    .select()
    .from(assets)
    .where(and(eq(assets.projectId, fromProject), inArray(assets.id, assetIds)))
  const here = await db.select({ id: assets.id, hash: assets.hash }).from(assets).where(eq(assets.projectId, id))
  const ids: Record<string, string> = {}
  const copies: (typeof assets.$inferInsert)[] = []
  const edits: Parameters<typeof log.append>[2][number][] = []
  for (const row of rows) {
    const known = here.find((entry) => entry.hash === row.hash && project.assets[entry.id])
    const described = other.project.assets[row.id]
    if (!row.hash || !described) continue
    ids[row.id] = known?.id ?? crypto.randomUUID()
    if (known) continue
    copies.push({ ...row, id: ids[row.id]!, projectId: id })
    const { folderId: _, label: __, note: ___, ...facts } = described
    edits.push({ id: crypto.randomUUID(), command: { type: 'addAsset', asset: { ...facts, id: ids[row.id]! } } })
  }
  const missing = assetIds.filter((assetId) => !ids[assetId])
  if (missing.length > 0)
    throw new Problem(
      409,
      'Not there',
      'A source of these clips is missing in the other project, or still being read in.',
      [{ path: 'assetIds', message: missing.join(', ') }],
    )
  if (copies.length > 0) {
    await db.insert(assets).values(copies)
    await log.append(id, 'server', edits)
    for (const copy of copies) await announce(sql, { kind: 'asset', projectId: id, assetId: copy.id! })
  }
  return { ids }
})
