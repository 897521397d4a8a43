import { assets, type Database, type Queue } from '@dusk/store'

/** Enters a file that has arrived, and has it probed: both or neither. A file entered before is left as it is. */
export async function addPendingImport(
  queue: Queue,
  db: Database,
  row: Omit<typeof assets.$inferInsert, 'state'>,
): Promise<void> {
  await db.transaction(async (tx) => {
    const added = await tx
      .insert(assets)
      .values({ ...row, state: 'waiting', heartbeatAt: new Date() })
      .onConflictDoNothing()
      .returning({ id: assets.id })
    if (added.length > 0) await queue.send('probe', { id: row.id, attempt: 0 }, tx)
  })
}
