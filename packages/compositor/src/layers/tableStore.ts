import type { Engine } from '../engine'

/** A table with the places of its arrays in the engine's memory, by their names. */
export type LoadedTable<T extends object> = T & { at: Record<ArraysOf<T>, number> }
type ArraysOf<T> = { [Name in keyof T]: T[Name] extends ArrayBufferView ? Name : never }[keyof T]

/** How many tables are kept. Letters that move have two each, of which one stays the same from frame to frame. */
const KEPT = 256

/** Tables of weights in the engine's memory, those longest not used forgotten. */
export class TableStore<T extends object> {
  private readonly tables = new Map<string, LoadedTable<T> | null>()

  constructor(private readonly engine: Engine) {}

  /** @param make makes the one of that name where it is not there; `null` is kept, too */
  get(name: string, make: () => T | null): LoadedTable<T> | null {
    const kept = this.tables.get(name)
    if (kept !== undefined) {
      this.tables.delete(name)
      this.tables.set(name, kept)
      return kept
    }
    const table = make()
    const loaded = table && this.load(table)
    this.tables.set(name, loaded)
    if (this.tables.size > KEPT) {
      const [oldest, old] = this.tables.entries().next().value!
      this.tables.delete(oldest)
      if (old) this.unload(old)
    }
    return loaded
  }

  release(): void {
    for (const table of this.tables.values()) if (table) this.unload(table)
    this.tables.clear()
  }

  private load(table: T): LoadedTable<T> {
    const { heap } = this.engine
    const at: Record<string, number> = {}
    for (const [name, values] of Object.entries(table) as [string, unknown][]) {
      if (!ArrayBuffer.isView(values)) continue
      const address = (at[name] = heap.allocate(values.byteLength))
      heap
        .bytes(address, values.byteLength)
        .set(new Uint8Array(values.buffer as ArrayBuffer, values.byteOffset, values.byteLength))
    }
    return { ...table, at: at as LoadedTable<T>['at'] }
  }

  private unload({ at }: LoadedTable<T>): void {
    for (const address of Object.values<number>(at)) this.engine.heap.release(address)
  }
}
