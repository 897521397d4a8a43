import { eq } from 'drizzle-orm'
import { announce, artefacts, giveTurn, pieceName, piecesOf, type Claim } from '@dusk/store'
import type { PieceShelf } from '../artefacts/define'
import { WorkLost } from './claimed'
import type { Context } from './context'

/** The pieces of an artefact that a worker makes: their files in its folder, what is known of them in its row. */
export function pieceShelf({ connection, queue, storage }: Context, claim: Claim<'proxy'>): PieceShelf {
  const { db, sql } = connection
  const { key, source, facts } = claim.row
  const there = { ...piecesOf(facts) }
  const path = (piece: number) => storage.artefact(key, pieceName(piece))
  const tell = async () => {
    if (!(await claim.write({ facts: { pieces: there } }))) throw new WorkLost()
    await announce(sql, { kind: 'media', hash: source })
  }
  return {
    there,
    path,
    async keep(piece, scratch, known) {
      await storage.publish(scratch, path(piece))
      there[piece] = known
      await tell()
    },
    async drop() {
      const gone = Object.keys(there).map(Number)
      for (const piece of gone) delete there[piece]
      await tell()
      for (const piece of gone) await storage.remove(path(piece))
    },
    async near() {
      const [row] = await db.select({ near: artefacts.near }).from(artefacts).where(eq(artefacts.key, key))
      return row?.near ?? null
    },
    async turn() {
      if (await giveTurn(db, queue, claim)) throw new WorkLost()
    },
  }
}
