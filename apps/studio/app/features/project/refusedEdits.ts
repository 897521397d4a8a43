import { createStore, delMany, entries, set, type UseStore } from 'idb-keyval'
import { shallowRef } from 'vue'
import { describeCommand, type Rejection } from '@dusk/timeline'

/** An edit that could not be kept, in words, until the person sends it away. */
export interface RefusedEdit {
  id: string
  /** What the history would have called it. */
  label: string
  reason: string
  /** Milliseconds since 1970. */
  at: number
}

let store: UseStore | null = null
const database = () => (store ??= createStore('dusk-refused', 'edits'))

/** Edits of a project that could not be kept: they stay readable, over reloads, until they are sent away. */
export class RefusedEdits {
  readonly list = shallowRef<readonly RefusedEdit[]>([])

  constructor(private readonly projectId: string) {}

  /** Those of earlier pages. A browser without a database has none. */
  async load(): Promise<void> {
    const rows = await entries<string, RefusedEdit>(database()).catch(() => [])
    const own = rows.filter(([key]) => key.startsWith(`${this.projectId}/`)).map(([, row]) => row)
    const known = new Set(this.list.value.map(({ id }) => id))
    this.list.value = [...own.filter(({ id }) => !known.has(id)), ...this.list.value].sort((a, b) => a.at - b.at)
  }

  add({ id, command, reason }: Rejection): void {
    const row: RefusedEdit = { id, label: describeCommand(command), reason, at: Date.now() }
    this.list.value = [...this.list.value.filter((other) => other.id !== id), row]
    void set(this.keyOf(id), row, database()).catch(() => {})
  }

  /** The person has read them. */
  sendAway(): void {
    const keys = this.list.value.map(({ id }) => this.keyOf(id))
    this.list.value = []
    void delMany(keys, database()).catch(() => {})
  }

  private readonly keyOf = (id: string) => `${this.projectId}/${id}`
}
