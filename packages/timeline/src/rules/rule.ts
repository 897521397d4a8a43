import type { Clip } from '../document/clip'
import { ENTITY_KINDS, type Entity, type EntityKind } from '../document/project'
import type { Entities } from '../document/source'
import type { Patch } from '../patches/patch'

/** A document, or one in the making, as rules read it. */
export interface RuleView extends Entities {
  /** Clips on a track in time order. */
  clipsOn(trackId: string): readonly Clip[]
}

/** Which entities a change touched: made, changed or removed. Good for one state of a document. */
export class Touched {
  /** What was touched and is there, by kind: rules ask for the same ones one after the other. */
  private readonly found = new Map<EntityKind, readonly Entity<EntityKind>[]>()

  private constructor(private readonly ids: ReadonlyMap<EntityKind, ReadonlySet<string>> | null) {}

  /** Everything there is. */
  static everything(): Touched {
    return new Touched(null)
  }

  /** What patches are about. */
  static by(patches: readonly Patch[]): Touched {
    const touched = new Map<EntityKind, Set<string>>()
    for (const patch of patches) {
      if (patch.op === 'name') continue
      let known = touched.get(patch.kind)
      if (!known) touched.set(patch.kind, (known = new Set()))
      if (patch.op === 'shift') for (const id of patch.ids) known.add(id)
      else known.add(patch.id)
    }
    return new Touched(touched)
  }

  /** Whether any entity of these kinds was touched. */
  any(...kinds: readonly EntityKind[]): boolean {
    return this.ids === null || kinds.some((kind) => this.ids!.has(kind))
  }

  has(kind: EntityKind, id: string): boolean {
    return this.ids === null || (this.ids.get(kind)?.has(id) ?? false)
  }

  /** Entities of a kind that were touched and are there. */
  of<K extends EntityKind>(view: RuleView, kind: K): readonly Entity<K>[] {
    const known = this.found.get(kind)
    if (known) return known as readonly Entity<K>[]
    const list: Entity<K>[] = []
    if (this.ids === null) list.push(...view.all(kind))
    else
      for (const id of this.ids.get(kind) ?? []) {
        const entity = view.get(kind, id)
        if (entity) list.push(entity)
      }
    this.found.set(kind, list)
    return list
  }
}

/**
 * One thing that has to hold in every document. `check` looks only at what a change can have broken, and says what is
 * wrong in words for the person.
 */
export interface Rule {
  name: string
  /** Kinds of entities whose change can break it. */
  about: readonly EntityKind[]
  /** Whether moving something in time alone can break it. */
  time?: boolean
  check(view: RuleView, touched: Touched, broken: (message: string, ...ids: string[]) => void): void
}

export function defineRule(rule: Rule): Rule {
  return rule
}

/** Every kind. */
export const ALL_KINDS: readonly EntityKind[] = ENTITY_KINDS

/** Clips that a change can have put wrong: those it touched, and those on tracks and in reels it touched. */
export function clipsConcerned(view: RuleView, touched: Touched): readonly Clip[] {
  if (!touched.any('tracks', 'reels')) return touched.of(view, 'clips')
  return [...view.all('clips')].filter((clip) => {
    const track = view.get('tracks', clip.trackId)
    return (
      touched.has('clips', clip.id) ||
      touched.has('tracks', clip.trackId) ||
      (track && touched.has('reels', track.reelId))
    )
  })
}
