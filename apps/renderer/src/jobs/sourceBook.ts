import { eq, inArray } from 'drizzle-orm'
import { assets, media, type Connection } from '@dusk/store'
import type { Project } from '@dusk/timeline'
import type { SourceBook } from '../render/sources'

/** The sources of a project that can be rendered from. */
export async function sourceBook(connection: Connection, project: Project): Promise<SourceBook> {
  const ids = Object.keys(project.assets)
  if (ids.length === 0) return new Map()
  const rows = await connection.db
    .select({ id: assets.id, hash: media.hash, size: media.size, metadata: media.metadata })
    .from(assets)
    .innerJoin(media, eq(assets.hash, media.hash))
    .where(inArray(assets.id, ids))
  return new Map(rows.map(({ id, ...entry }) => [id, entry]))
}
