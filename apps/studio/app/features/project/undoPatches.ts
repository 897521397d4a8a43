import { LRUCache } from 'lru-cache'
import type { Patch } from '@dusk/timeline'
import { api } from '~/features/ui/api'

/** Patches kept in the page, counted by what they name; the rest is fetched from the log when it is wanted. */
const KEPT = 20_000

function weight(patches: readonly Patch[]): number {
  let count = 1
  for (const patch of patches)
    count += patch.op === 'shift' ? patch.ids.length : patch.op === 'fields' ? patch.fields.length * 2 : 20
  return count
}

/** What this window's edits changed, for undo and redo. */
export class UndoPatches {
  private readonly kept = new LRUCache<string, Patch[]>({ maxSize: KEPT, sizeCalculation: weight })

  keep(editId: string, patches: Patch[]): void {
    this.kept.set(editId, patches)
  }

  /** What an edit changed, if the page still knows. */
  known(editId: string): readonly Patch[] | null {
    return this.kept.get(editId) ?? null
  }

  /** The same, from the log where the page no longer knows. @throws {ApiError} when the log does not have it either */
  async fetch(projectId: string, editId: string): Promise<readonly Patch[]> {
    const known = this.known(editId)
    if (known) return known
    const { patches } = await api<{ patches: Patch[] }>(`/projects/${projectId}/edits/${editId}`)
    this.kept.set(editId, patches)
    return patches
  }
}
