import { and, eq, lt, sql } from 'drizzle-orm'
import type { Storage } from '@dusk/media'
import { artefacts, pieceName, piecesOf, type Database } from '@dusk/store'

/** Removes the pieces of proxies that have been whole for a while. Returns bytes freed. */
export async function sweepPieces(db: Database, storage: Storage, before: Date): Promise<number> {
  const rows = await db
    .select({ key: artefacts.key, facts: artefacts.facts })
    .from(artefacts)
    .where(
      and(eq(artefacts.state, 'ready'), lt(artefacts.heartbeatAt, before), sql`${artefacts.facts} -> 'pieces' <> '{}'`),
    )
  let bytes = 0
  for (const { key, facts } of rows) {
    for (const piece of Object.keys(piecesOf(facts)).map(Number)) {
      const path = storage.artefact(key, pieceName(piece))
      bytes += (await storage.size(path)).bytes
      await storage.remove(path)
    }
    await db
      .update(artefacts)
      .set({ facts: sql`${artefacts.facts} - 'pieces'` })
      .where(and(eq(artefacts.key, key), eq(artefacts.state, 'ready')))
  }
  return bytes
}
