import type { Clip } from '../document/clip'
import { ENTITY_KINDS, type Entity, type EntityKind } from '../document/project'
import type { Entities } from '../document/source'

/** A document, or one in the making, as rules read it. */
export interface RuleView extends Entities {
  /** Clips on a track in time order. */
  clipsOn(trackId: string): readonly Clip[]
}

/** Which entities a change touched: made, changed or removed. */
export class Touched {
  private constructor(private readonly ids: ReadonlyMap<EntityKind, ReadonlySet<string>> | null) {}

  /** Everything there is. */
  static everything(): Touched {
    return new Touched(null)
  }

  static these(changes: Iterable<{ kind: EntityKind; id: string }>): Touched {
    const ids = new Map<EntityKind, Set<string>>()
    for (const { kind, id } of changes) {
      const known = ids.get(kind)
      if (known) known.add(id)
      else ids.set(kind, new Set([id]))
    }
    return new Touched(ids)
  }

  /** Whether any entity of these kinds was touched. */
  any(...kinds: readonly EntityKind[]): boolean {
    return this.ids === null || kinds.some((kind) => this.ids!.has(kind))
  }

  has(kind: EntityKind, id: string): boolean {
    return this.ids === null || (this.ids.get(kind)?.has(id) ?? false)
  }

  /** Entities of a kind that were touched and are there. */
  *of<K extends EntityKind>(view: RuleView, kind: K): Generator<Entity<K>> {
    if (this.ids === null) yield* view.all(kind)
    else
      for (const id of this.ids.get(kind) ?? []) {
        const entity = view.get(kind, id)
        if (entity) yield entity
      }
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
  check(view: RuleView, touched: Touched, broken: (message: string, ...ids: string[]) => void): void
}

export function defineRule(rule: Rule): Rule {
  return rule
}

/** Every kind. */
export const ALL_KINDS: readonly EntityKind[] = ENTITY_KINDS

/** Clips that a change can have put wrong: those it touched, and those on tracks and in reels it touched. */
export function* clipsConcerned(view: RuleView, touched: Touched): Generator<Clip> {
  if (!touched.any('tracks', 'reels')) {
    yield* touched.of(view, 'clips')
    return
  }
  for (const clip of view.all('clips')) {
    const track = view.get('tracks', clip.trackId)
    if (
      touched.has('clips', clip.id) ||
      touched.has('tracks', clip.trackId) ||
      (track && touched.has('reels', track.reelId))
    )
      yield clip
  }
}
