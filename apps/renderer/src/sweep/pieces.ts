import { stat } from 'node:fs/promises'
import { and, eq, lt, sql } from 'drizzle-orm'
import { removeFile, type FolderStorage } from '@dusk/media'
import { artefacts, pieceName, piecesOf, type Database } from '@dusk/store'

/** Removes the pieces of proxies that have been whole for a while. Returns bytes freed. */
export async function sweepPieces(db: Database, storage: FolderStorage, before: Date): Promise<number> {
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
      bytes += (await stat(path).catch(() => null))?.size ?? 0
      await removeFile(path)
    }
    await db
      .update(artefacts)
      .set({ facts: sql`${artefacts.facts} - 'pieces'` })
      .where(and(eq(artefacts.key, key), eq(artefacts.state, 'ready')))
  }
  return bytes
}
