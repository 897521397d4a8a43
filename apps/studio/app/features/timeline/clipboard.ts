import {
  clipEnd,
  reading,
  reelsInside,
  tracksOf,
  type Clip,
  type CommandInput,
  type Effect,
  type Marker,
  type PlaceMode,
  type Project,
  type Transition,
  type WholeReel,
} from '@dusk/timeline'

/** Copied clips. They name where they came from, so that they can be pasted into another reel or project. */
export interface Copied {
  projectId: string
  clips: Clip[]
  markers: Marker[]
  /** Transitions between them, or at an end of one. */
  transitions?: Transition[]
  effects?: Effect[]
  /** Reels that play in them, with all that is in those: another project does not have them. */
  reels?: WholeReel[]
  /** Kind, purpose and rank of each track they came from: pasting looks for its like. */
  tracks: Record<string, { kind: 'picture' | 'sound'; purpose: string; rank: number }>
}

const KEY = 'dusk-reel-clipboard'

/** Keeps copied clips for every window of this browser. */
export function keepCopied(copied: Copied): void {
  localStorage.setItem(KEY, JSON.stringify(copied))
}

export function readCopied(): Copied | null {
  try {
    const found = JSON.parse(localStorage.getItem(KEY) ?? 'null') as Copied | null
    return found && Array.isArray(found.clips) && found.clips.length > 0 ? found : null
  } catch {
    return null
  }
}

/** What a copy of clips holds. */
export function copyOf(project: Project, clipIds: Iterable<string>): Copied {
  const ids = new Set(clipIds)
  const clips = [...ids].map((id) => project.clips[id]).filter((clip): clip is Clip => !!clip)
  const tracks: Copied['tracks'] = {}
  for (const clip of clips) {
    const track = project.tracks[clip.trackId]!
    const kin = tracksOf(project, track.reelId).filter((other) => other.kind === track.kind)
    tracks[track.id] = {
      kind: track.kind,
      purpose: track.purpose,
      rank: kin.findIndex((other) => other.id === track.id),
    }
  }
  const markers = Object.values(project.markers).filter((marker) => marker.clipId && ids.has(marker.clipId))
  const within = (id: string | null) => id === null || ids.has(id)
  const transitions = Object.values(project.transitions).filter(
    (entry) => within(entry.leftId) && within(entry.rightId),
  )
  const effects = Object.values(project.effects).filter((effect) => ids.has(effect.ownerId))
  return { projectId: project.id, clips, markers, transitions, effects, reels: reelsIn(project, clips), tracks }
}

/** Every reel that plays in clips, innermost too. */
function reelsIn(project: Project, clips: readonly Clip[]): WholeReel[] {
  const ids = new Set(
    clips.flatMap((clip) => (clip.kind === 'reel' ? [...reelsInside(reading(project), clip.nestedId)] : [])),
  )
  return [...ids].map((id) => {
    const tracks = tracksOf(project, id)
    const own = new Set(tracks.map((track) => track.id))
    const inside = Object.values(project.clips).filter((clip) => own.has(clip.trackId))
    const clipIds = new Set(inside.map((clip) => clip.id))
    return {
      reel: project.reels[id]!,
      tracks,
      clips: inside,
      transitions: Object.values(project.transitions).filter((entry) => own.has(entry.trackId)),
      markers: Object.values(project.markers).filter((marker) =>
        marker.clipId ? clipIds.has(marker.clipId) : marker.reelId === id,
      ),
      effects: Object.values(project.effects).filter(
        ({ ownerId }) => ownerId === id || own.has(ownerId) || clipIds.has(ownerId),
      ),
    }
  })
}

/** Ids of all sources that copied clips need. */
export function sourcesOf(copied: Copied): string[] {
  const all = [...copied.clips, ...(copied.reels ?? []).flatMap(({ clips }) => clips)]
  return [...new Set(all.flatMap((clip) => (clip.kind === 'media' ? [clip.assetId] : [])))]
}

/** Copied clips with their sources under other ids, as another project has them. */
export function withSources(copied: Copied, ids: Record<string, string>): Copied {
  const known = (clip: Clip): Clip =>
    clip.kind === 'media' ? { ...clip, assetId: ids[clip.assetId] ?? clip.assetId } : clip
  const reels = copied.reels?.map((whole) => ({ ...whole, clips: whole.clips.map(known) }))
  return { ...copied, clips: copied.clips.map(known), ...(reels ? { reels } : {}) }
}

/**
 * The command that pastes copied clips into a reel: each on the track it came from when that is in this reel, else on
 * the one of its kind with the same purpose, else with the same rank.
 * @returns `null` with words when there is no track for one of them
 */
export function planPaste(
  copied: Copied,
  project: Project,
  reelId: string,
  at: number,
  mode: PlaceMode,
): { command: CommandInput; end: number } | string {
  const tracks = tracksOf(project, reelId).filter((track) => !track.locked)
  const targets: Record<string, string> = {}
  for (const [id, was] of Object.entries(copied.tracks)) {
    const kin = tracks.filter((track) => track.kind === was.kind)
    const same = tracks.find((track) => track.id === id)
    const alike = kin.filter((track) => track.purpose === was.purpose)
    const target = same ?? alike[Math.min(was.rank, alike.length - 1)] ?? kin[Math.min(was.rank, kin.length - 1)]
    if (!target) return `There is no unlocked ${was.kind} track to paste on.`
    targets[id] = target.id
  }
  const clips = copied.clips.map((clip) => ({ ...clip, trackId: targets[clip.trackId]! }))
  const first = Math.min(...clips.map((clip) => clip.start))
  const end = at + Math.max(...clips.map(clipEnd)) - first
  return {
    command: {
      type: 'paste',
      clips,
      markers: copied.markers,
      transitions: copied.transitions ?? [],
      effects: copied.effects ?? [],
      reels: (copied.reels ?? []).filter(({ reel }) => !project.reels[reel.id]),
      at,
      mode,
    },
    end,
  }
}
