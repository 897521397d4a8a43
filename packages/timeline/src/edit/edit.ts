import type { Clip, ClipBase } from '../document/clip'
import { trackClips, rememberTrackClips } from '../document/query'
import { ENTITY_KINDS, type Entity, type EntityKind, type Project } from '../document/project'
import { refuse } from './refuse'

/** An entity before and after a change; `null` where it did not exist. */
export interface Change<K extends EntityKind = EntityKind> {
  kind: K
  id: string
  before: Entity<K> | null
  after: Entity<K> | null
  /** Known to be moved in time and nothing else: thousands of clips need not be compared field by field. */
  moved?: boolean
}

const byStart = (a: Clip, b: Clip) => a.start - b.start

/**
 * One change of a document in the making. Reads see what was written so far; the document given in is never touched.
 * Only entities written are copied, so that a change on a reel of thousands of clips costs what it changes plus one
 * copy of the map's keys, and the list of changes (which is the undo) comes for free.
 */
export class Edit {
  private readonly written = new Map<EntityKind, Map<string, Entity<EntityKind> | null>>()
  private renamed: string | null = null
  /** Tracks whose clips differ from the base, with the list as it stands where that was asked for since. */
  private readonly lanes = new Map<string, readonly Clip[] | null>()
  /** Ids of clips written by track, among them those that have left it since. */
  private readonly writtenOn = new Map<string, Set<string>>()
  /** Clips of the base that were moved in time alone. */
  private readonly moved = new Set<Entity<EntityKind>>()
  private counter = 0

  /**
   * @param seed a UUID that belongs to this change alone; ids of new entities are derived from it, alike everywhere.
   */
  constructor(
    readonly base: Project,
    private readonly seed: string,
  ) {}

  /** A new id, the same for the same seed and call order on every machine. */
  newId(): string {
    this.counter++
    const tail = (parseInt(this.seed.slice(28), 16) + this.counter * 0x9e3779b1) % 0x1_0000_0000
    // Version 8 of RFC 9562: an id whose bits are ours to choose.
    return `${this.seed.slice(0, 14)}8${this.seed.slice(15, 28)}${tail.toString(16).padStart(8, '0')}`
  }

  get name(): string {
    return this.renamed ?? this.base.name
  }

  set name(name: string) {
    this.renamed = name
  }

  get<K extends EntityKind>(kind: K, id: string): Entity<K> | undefined {
    const written = this.written.get(kind)?.get(id)
    if (written !== undefined) return (written ?? undefined) as Entity<K> | undefined
    return this.base[kind][id] as Entity<K> | undefined
  }

  /** The entity, or a refusal that names what is missing. */
  need<K extends EntityKind>(kind: K, id: string): Entity<K> {
    const found = this.get(kind, id)
    if (!found) {
      const noun = {
        assets: 'source',
        reels: 'reel',
        tracks: 'track',
        clips: 'clip',
        transitions: 'transition',
        markers: 'marker',
        subclips: 'pick',
        folders: 'folder',
        effects: 'effect',
      }[kind]
      refuse('missing', `That ${noun} is no longer there.`, [id])
    }
    return found
  }

  put<K extends EntityKind>(kind: K, entity: Entity<K>): void {
    if (kind === 'clips') this.touch(entity.id, (entity as Clip).trackId)
    this.overlay(kind).set(entity.id, entity)
  }

  remove(kind: EntityKind, id: string): void {
    if (kind === 'clips') this.touch(id)
    this.overlay(kind).set(id, null)
  }

  /** Forgets the lists of the track a clip was on and of the one it goes to. */
  private touch(clipId: string, trackId?: string): void {
    const old = this.get('clips', clipId)
    if (old) this.lanes.set(old.trackId, null)
    if (!trackId) return
    this.lanes.set(trackId, null)
    this.writtenIds(trackId).add(clipId)
  }

  private writtenIds(trackId: string): Set<string> {
    let ids = this.writtenOn.get(trackId)
    if (!ids) this.writtenOn.set(trackId, (ids = new Set()))
    return ids
  }

  private overlay(kind: EntityKind) {
    let overlay = this.written.get(kind)
    if (!overlay) this.written.set(kind, (overlay = new Map()))
    return overlay
  }

  /** Every entity of a kind as it stands now. */
  *all<K extends EntityKind>(kind: K): Generator<Entity<K>> {
    const overlay = this.written.get(kind)
    const map = this.base[kind]
    for (const id in map) {
      if (overlay?.has(id)) continue
      yield map[id] as Entity<K>
    }
    if (overlay) for (const entity of overlay.values()) if (entity) yield entity as Entity<K>
  }

  /** Clips on a track in time order. Not to be changed by the caller. */
  clipsOn(trackId: string): readonly Clip[] {
    const base = trackClips(this.base).get(trackId) ?? []
    const known = this.lanes.get(trackId)
    if (known === undefined) return base
    if (known) return known
    const written = this.written.get('clips')!
    const lane = base.filter((clip) => !written.has(clip.id))
    for (const id of this.writtenOn.get(trackId) ?? []) {
      const clip = written.get(id) as Clip | null
      if (clip?.trackId === trackId) lane.push(clip)
    }
    lane.sort(byStart)
    this.lanes.set(trackId, lane)
    return lane
  }

  /** Clips that share a link, in no order. */
  linkedTo(link: string): Clip[] {
    const found: Clip[] = []
    for (const clip of this.all('clips')) if (clip.link === link) found.push(clip)
    return found
  }

  /** Moves clips of one track in time, by ticks: what pushes and close-ups do to thousands of them. */
  shiftClips(trackId: string, moves: (clip: Clip) => boolean, by: number): void {
    const overlay = this.overlay('clips')
    const ids = this.writtenIds(trackId)
    const lane = this.clipsOn(trackId).map((clip) => {
      if (!moves(clip)) return clip
      const moved: Clip = { ...clip, start: clip.start + by }
      if (this.base.clips[clip.id] === clip) this.moved.add(moved)
      overlay.set(clip.id, moved)
      ids.add(clip.id)
      return moved
    })
    this.lanes.set(trackId, lane.sort(byStart))
  }

  /** Writes part of a clip. */
  patchClip(id: string, patch: Partial<ClipBase>): void {
    this.put('clips', { ...this.need('clips', id), ...patch } as Clip)
  }

  /** Ids of what was removed, also of what had only been made by this change. */
  removed(kind: EntityKind): string[] {
    return [...(this.written.get(kind) ?? [])].filter(([, entity]) => entity === null).map(([id]) => id)
  }

  /** What was changed, entities written back unchanged left out. */
  changes(): Change[] {
    const changes: Change[] = []
    for (const kind of ENTITY_KINDS) {
      const overlay = this.written.get(kind)
      if (!overlay) continue
      for (const [id, after] of overlay) {
        const before = (this.base[kind][id] ?? null) as Entity<EntityKind> | null
        if (before === after) continue
        changes.push({ kind, id, before, after, moved: after !== null && this.moved.has(after) })
      }
    }
    return changes
  }

  /** The document with everything written so far. Maps that were not touched are shared with the old one. */
  finish(): Project {
    const next: Project = { ...this.base, name: this.name }
    for (const [kind, overlay] of this.written) {
      // Key by key: for maps of thousands, engines copy this way in half the time a spread takes.
      const old = next[kind] as Record<string, Entity<EntityKind>>
      const map: Record<string, Entity<EntityKind>> = {}
      for (const id in old) map[id] = old[id]!
      for (const [id, entity] of overlay) {
        if (entity) map[id] = entity
        else delete map[id]
      }
      ;(next as Record<EntityKind, unknown>)[kind] = map
    }
    if (this.lanes.size > 0) {
      // Only the lanes that changed are sorted anew; the next command finds all of them ready.
      const lanes = new Map(trackClips(this.base))
      for (const trackId of this.lanes.keys()) {
        const lane = this.clipsOn(trackId)
        if (lane.length > 0) lanes.set(trackId, lane)
        else lanes.delete(trackId)
      }
      rememberTrackClips(next.clips, lanes)
    }
    return next
  }
}
