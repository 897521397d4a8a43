import { sql } from 'drizzle-orm'
import type { Database } from './database'

/** What a project takes on the disk, in bytes. */
export interface ProjectUse {
  id: string
  name: string
  /** When it was put away, as ISO 8601; `null` for one that is there. */
  deletedAt: string | null
  /** Its sources, those shared with other projects too. */
  sources: number
  /** What is shared with no other project: sources and what was made of them. Removing the project frees it. */
  own: number
  /** Previews, sounds, strips and made frames of its sources. */
  previews: number
}

/** Room that can be freed at once, and what it costs: nothing, or having it made again. */
export const FREEABLE = ['chunks', 'unused', 'project'] as const
export type Freeable = (typeof FREEABLE)[number]

/** What each project takes, the largest first. */
export async function projectUse(db: Database): Promise<ProjectUse[]> {
  const rows = await db.execute<{
    id: string
    name: string
    deleted: string | null
    sources: string
    own: string
    previews: string
  }>(sql`
    with made as (select source, sum(bytes) as bytes from artefacts group by source),
    used as (select distinct project_id, hash from assets where hash is not null),
    alone as (select hash from used group by hash having count(*) = 1)
    select p.id, p.name, to_char(p.deleted_at at time zone 'utc', 'YYYY-MM-DD"T"HH24:MI:SS"Z"') as deleted,
      coalesce(sum(m.size), 0)::text as sources,
      coalesce(sum(made.bytes), 0)::text as previews,
      coalesce(sum(m.size + coalesce(made.bytes, 0)) filter (where alone.hash is not null), 0)::text as own
    from projects p
    left join used u on u.project_id = p.id
    left join media m on m.hash = u.hash
    left join made on made.source = u.hash
    left join alone on alone.hash = u.hash
    group by p.id, p.name, p.deleted_at
    order by coalesce(sum(m.size), 0) desc, p.name`)
  return rows.map((row) => ({
    id: row.id,
    name: row.name,
    deletedAt: row.deleted,
    sources: Number(row.sources),
    own: Number(row.own),
    previews: Number(row.previews),
  }))
}

/** Bytes that the database itself takes. */
export async function databaseBytes(db: Database): Promise<number> {
  const [row] = await db.execute<{ bytes: string }>(sql`select pg_database_size(current_database())::text as bytes`)
  return Number(row!.bytes)
}
