import { createStore, delMany, entries, setMany, type UseStore } from 'idb-keyval'
import { commandSchema, type SentCommand } from '@dusk/timeline'

let store: UseStore | null = null
const database = () => (store ??= createStore('dusk-outbox', 'edits'))

/** Key of a row: rows of one project come out in the order in which they went in. */
const keyOf = (projectId: string, place: number) => `${projectId}/${place.toString().padStart(12, '0')}`

/**
 * Edits of one project that the server has not confirmed, each a row of its own in the browser's database: a closed
 * tab or a crash loses none, and a new edit costs what it is, however many wait.
 */
export class Outbox {
  private readonly places = new Map<string, string>()
  private next = 0
  /** Rows are written one after the other, so that a removal never overtakes what it removes. */
  private writing: Promise<void> = Promise.resolve()

  constructor(private readonly projectId: string) {}

  /** What an earlier page left unsent, oldest first. Rows that can't be read are dropped and counted. */
  async load(): Promise<{ sent: SentCommand[]; unreadable: number }> {
    const rows = (await entries<string, SentCommand>(database()))
      .filter(([key]) => key.startsWith(`${this.projectId}/`))
      .sort(([a], [b]) => (a < b ? -1 : 1))
    const sent: SentCommand[] = []
    const bad: string[] = []
    for (const [key, row] of rows) {
      this.next = Math.max(this.next, Number(key.slice(this.projectId.length + 1)) + 1)
      const held = commandSchema.safeParse(row?.command)
      if (!held.success || typeof row.id !== 'string') {
        bad.push(key)
        continue
      }
      this.places.set(row.id, key)
      sent.push({ id: row.id, command: held.data })
    }
    if (bad.length > 0) this.write(() => delMany(bad, database()))
    return { sent, unreadable: bad.length }
  }

  add(sent: SentCommand): void {
    const key = keyOf(this.projectId, this.next++)
    this.places.set(sent.id, key)
    // Reactive wrappers can't be stored: plain data is.
    this.write(() => setMany([[key, { id: sent.id, command: structuredClone(sent.command) }]], database()))
  }

  remove(ids: Iterable<string>): void {
    const keys: string[] = []
    for (const id of ids) {
      const key = this.places.get(id)
      if (key) keys.push(key)
      this.places.delete(id)
    }
    if (keys.length > 0) this.write(() => delMany(keys, database()))
  }

  /** Settles when everything asked for so far is written. */
  settled(): Promise<void> {
    return this.writing
  }

  private write(act: () => Promise<void>): void {
    // A browser without a database (a private window) keeps unsent edits in memory only.
    this.writing = this.writing.then(act).catch(() => {})
  }
}

/** Largest body that a batch may make, in characters of JSON. */
const BATCH_CHARACTERS = 2_000_000
const BATCH_EDITS = 200

/** The first of these that are sent together: at least one, as many as fit. */
export function batchOf<T extends SentCommand>(pending: readonly T[]): T[] {
  const batch: T[] = []
  let size = 0
  for (const sent of pending) {
    // Only what is sent counts: what waits holds its whole document beside it.
    size += sent.id.length + JSON.stringify(sent.command).length
    if (batch.length > 0 && (size > BATCH_CHARACTERS || batch.length >= BATCH_EDITS)) break
    batch.push(sent)
  }
  return batch
}
