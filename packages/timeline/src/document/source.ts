import { sourceLength, type PictureInfo, type SoundInfo } from './asset'
import type { Clip } from './clip'
import { clipEnd } from './query'
import type { Entity, EntityKind, Project } from './project'

/** Anything that entities can be read from: a document, or one in the making. */
export interface Entities {
  get<K extends EntityKind>(kind: K, id: string): Entity<K> | undefined
  all<K extends EntityKind>(kind: K): Iterable<Entity<K>>
}

/** What plays in a clip: a source of the library, or another reel. */
export interface ClipSource {
  name: string
  /** Ticks that the clip's stream of it holds; `Infinity` for stills and for a frozen moment. */
  length: number
  picture: Pick<PictureInfo, 'width' | 'height' | 'alpha'> | null
  sounds: readonly SoundInfo[]
}

/** Reads a finished document. */
export function reading(project: Project): Entities {
  return {
    get: (kind, id) => project[kind][id] as never,
    all: (kind) => Object.values(project[kind]) as never,
  }
}

/** The end of the last clip of a reel in ticks, 0 for an empty one. */
export function reelEnd(from: Entities, reelId: string): number {
  let end = 0
  const mine = new Set<string>()
  for (const track of from.all('tracks')) if (track.reelId === reelId) mine.add(track.id)
  for (const clip of from.all('clips')) if (mine.has(clip.trackId)) end = Math.max(end, clipEnd(clip))
  return end
}

/** What plays in a clip, or `null` when it is missing. */
export function sourceOf(from: Entities, clip: Clip): ClipSource | null {
  if (clip.kind === 'media') {
    const asset = from.get('assets', clip.assetId)
    if (!asset) return null
    const open = asset.kind === 'still' || clip.map.kind === 'freeze'
    return {
      name: asset.name,
      length: open ? Infinity : sourceLength(asset, clip.stream),
      picture: asset.picture,
      sounds: asset.sounds,
    }
  }
  if (clip.kind !== 'reel') return madeSource(from, clip)
  const reel = from.get('reels', clip.nestedId)
  if (!reel) return null
  const length = reelEnd(from, reel.id)
  return {
    name: reel.name,
    length: clip.map.kind === 'freeze' ? Infinity : length,
    picture: { width: reel.format.width, height: reel.format.height, alpha: true },
    sounds: [{ channels: 2, length, title: '' }],
  }
}

/** Titles, generators and adjustments fill the reel and never end. */
function madeSource(from: Entities, clip: Exclude<Clip, { assetId: string } | { nestedId: string }>): ClipSource {
  const track = from.get('tracks', clip.trackId)
  const format = track && from.get('reels', track.reelId)?.format
  const name =
    clip.kind === 'title'
      ? clip.title.text.trim().split('\n')[0]!.slice(0, 80) || 'Title'
      : clip.kind === 'generator'
        ? clip.generator[0]!.toUpperCase() +
          clip.generator.slice(1).replace(/[A-Z0-9]+/g, (part) => ` ${part.toLowerCase()}`)
        : 'Adjustment'
  return {
    name,
    length: Infinity,
    picture: { width: format?.width ?? 1920, height: format?.height ?? 1080, alpha: true },
    sounds: [],
  }
}

/** What a clip is called: the person's own name for it, or its source's. */
export function clipName(from: Entities, clip: Clip): string {
  return clip.name ?? sourceOf(from, clip)?.name ?? 'clip'
}

/** Reels that play inside a reel, at any depth, itself included. */
export function reelsInside(from: Entities, reelId: string): Set<string> {
  const found = new Set<string>([reelId])
  const trackReel = new Map<string, string>()
  for (const track of from.all('tracks')) trackReel.set(track.id, track.reelId)
  const inside = new Map<string, Set<string>>()
  for (const clip of from.all('clips')) {
    if (clip.kind !== 'reel') continue
    const parent = trackReel.get(clip.trackId)
    if (!parent) continue
    let list = inside.get(parent)
    if (!list) inside.set(parent, (list = new Set()))
    list.add(clip.nestedId)
  }
  const look = [reelId]
  for (let id = look.pop(); id !== undefined; id = look.pop())
    for (const next of inside.get(id) ?? [])
      if (!found.has(next)) {
        found.add(next)
        look.push(next)
      }
  return found
}
