import type { Project } from './project'
import { reading, sourceOf } from './source'

/** A document without what names something that is not there: clips without source or track, marks of nothing. */
export function settleStray(project: Project): Project {
  const keep = <T>(map: Record<string, T>, wanted: (entity: T) => boolean): Record<string, T> =>
    Object.fromEntries(Object.entries(map).filter(([, entity]) => wanted(entity)))
  const next: Project = { ...project }
  next.folders = keep(next.folders, (folder) => folder.parentId === null || folder.parentId in project.folders)
  next.assets = Object.fromEntries(
    Object.entries(next.assets).map(([id, asset]) => [
      id,
      asset.folderId && !(asset.folderId in next.folders) ? { ...asset, folderId: null } : asset,
    ]),
  )
  next.tracks = keep(next.tracks, (track) => track.reelId in next.reels)
  next.clips = keep(next.clips, (clip) => clip.trackId in next.tracks && sourceOf(reading(next), clip) !== null)
  const there = (id: string | null) => id === null || id in next.clips
  next.transitions = keep(
    next.transitions,
    (entry) => there(entry.leftId) && there(entry.rightId) && entry.trackId in next.tracks,
  )
  next.markers = keep(
    next.markers,
    (marker) => there(marker.clipId) && (marker.reelId === null || marker.reelId in next.reels),
  )
  const owners = { clip: next.clips, track: next.tracks, reel: next.reels, asset: next.assets }
  next.effects = keep(next.effects, (effect) => effect.ownerId in owners[effect.owner])
  next.subclips = keep(next.subclips, (subclip) => subclip.assetId in next.assets)
  return next
}
