import { snapToFrame, snapToSample } from '../time/ticks'
import { ENTITY_KINDS, type Project } from './project'
import { clipEnd, clipsByTrack } from './query'
import { reading, reelsInside, sourceOf } from './source'

/** A rule of the document that does not hold. */
export interface Problem {
  rule: 'overlap' | 'grid' | 'missing' | 'link' | 'kind' | 'id' | 'cycle' | 'marker' | 'transition'
  message: string
  ids: string[]
}

/**
 * Every rule that a valid document must keep beyond the shape of its entities; the empty list means all is well.
 * Clips on a track don't overlap, edges sit on their grid, references exist, links stay inside one reel, clip kinds
 * match their track.
 */
export function check(project: Project): Problem[] {
  const problems: Problem[] = []
  const entities = reading(project)
  const add = (rule: Problem['rule'], message: string, ...ids: string[]) => problems.push({ rule, message, ids })

  for (const kind of ENTITY_KINDS) {
    for (const [id, entity] of Object.entries(project[kind])) {
      if (entity.id !== id) add('id', `${kind} entry ${id} holds the id ${entity.id}`, id)
    }
  }
  for (const track of Object.values(project.tracks)) {
    if (!project.reels[track.reelId]) add('missing', `track ${track.name} belongs to no reel`, track.id)
    if ((track.kind === 'picture') !== (track.purpose === 'picture' || track.purpose === 'titles'))
      add('kind', `a ${track.kind} track can't have the purpose ${track.purpose}`, track.id)
  }

  const linkReel = new Map<string, string>()
  for (const clip of Object.values(project.clips)) {
    const track = project.tracks[clip.trackId]
    const source = sourceOf(entities, clip)
    if (!track) {
      add('missing', 'a clip sits on no track', clip.id)
      continue
    }
    const reel = project.reels[track.reelId]
    if (!source) {
      add('missing', 'a clip has no source', clip.id)
      continue
    }
    if (!reel) continue
    if (track.kind === 'picture') {
      if (!source.picture || clip.stream !== null) add('kind', `${source.name} has no picture for this track`, clip.id)
      const { rate } = reel.format
      if (snapToFrame(clip.start, rate) !== clip.start || snapToFrame(clipEnd(clip), rate) !== clipEnd(clip))
        add('grid', `a picture clip of ${source.name} is off the frame grid`, clip.id)
    } else {
      if (clip.stream === null || !source.sounds[clip.stream])
        add('kind', `${source.name} has no such sound stream`, clip.id)
      if (snapToSample(clip.start) !== clip.start || snapToSample(clip.length) !== clip.length)
        add('grid', `a sound clip of ${source.name} is off the sample grid`, clip.id)
    }
    if (clip.link) {
      const other = linkReel.get(clip.link)
      if (other && other !== track.reelId) add('link', 'linked clips lie in different reels', clip.id)
      linkReel.set(clip.link, track.reelId)
    }
  }

  for (const clip of Object.values(project.clips)) {
    const reelId = project.tracks[clip.trackId]?.reelId
    if (clip.kind === 'reel' && reelId && reelsInside(entities, clip.nestedId).has(reelId))
      add('cycle', 'a reel plays inside itself', clip.id)
  }
  for (const marker of Object.values(project.markers)) {
    if ((marker.reelId === null) === (marker.clipId === null)) add('marker', 'a marker lies on one thing', marker.id)
    if (marker.reelId && !project.reels[marker.reelId]) add('missing', 'a marker lies on no reel', marker.id)
    if (marker.clipId && !project.clips[marker.clipId]) add('missing', 'a marker lies on no clip', marker.id)
  }
  for (const pick of Object.values(project.picks)) {
    if (!project.assets[pick.assetId]) add('missing', 'a pick has no source', pick.id)
    if (pick.to <= pick.from) add('marker', 'a pick has no length', pick.id)
  }
  for (const folder of Object.values(project.folders)) {
    const seen = new Set<string>()
    for (let id: string | null = folder.id; id; id = project.folders[id]?.parentId ?? null) {
      if (seen.has(id)) {
        add('cycle', 'a folder lies inside itself', folder.id)
        break
      }
      seen.add(id)
    }
    if (folder.parentId && !project.folders[folder.parentId]) add('missing', 'a folder lies in no folder', folder.id)
  }
  for (const asset of Object.values(project.assets))
    if (asset.folderId && !project.folders[asset.folderId]) add('missing', `${asset.name} lies in no folder`, asset.id)

  checkTransitions(project, add)

  for (const list of clipsByTrack(project).values()) {
    for (let i = 1; i < list.length; i++) {
      const [a, b] = [list[i - 1]!, list[i]!]
      if (clipEnd(a) > b.start) add('overlap', 'two clips overlap on a track', a.id, b.id)
    }
  }
  return problems
}

/** Transitions join clips that touch, lie inside them without overlapping, and sit on the grid. */
function checkTransitions(project: Project, add: (rule: Problem['rule'], message: string, ...ids: string[]) => void) {
  const taken = new Map<string, number>()
  const edges = new Set<string>()
  for (const transition of Object.values(project.transitions)) {
    const { id, leftId, rightId, trackId, before, after } = transition
    const left = leftId ? project.clips[leftId] : null
    const right = rightId ? project.clips[rightId] : null
    const track = project.tracks[trackId]
    if (left === undefined || right === undefined || (!left && !right) || !track) {
      add('missing', 'a transition joins a clip that is not there', id)
      continue
    }
    for (const clip of [left, right])
      if (clip && clip.trackId !== trackId) add('transition', 'a transition lies on another track than its clip', id)
    if (left && right && clipEnd(left) !== right.start)
      add('transition', 'a transition joins clips that do not touch', id)
    if ((!left && before > 0) || (!right && after > 0)) add('transition', 'a transition reaches past its only clip', id)
    if (before + after <= 0) add('transition', 'a transition has no length', id)
    for (const edge of [left && `end ${left.id}`, right && `start ${right.id}`]) {
      if (!edge) continue
      if (edges.has(edge)) add('transition', 'two transitions lie on one edge', id)
      edges.add(edge)
    }
    if (left) taken.set(left.id, (taken.get(left.id) ?? 0) + before)
    if (right) taken.set(right.id, (taken.get(right.id) ?? 0) + after)
    const rate = project.reels[track.reelId]?.format.rate
    const at = right ? right.start : clipEnd(left!)
    const off = (tick: number) => (track.kind === 'sound' ? snapToSample(tick) : snapToFrame(tick, rate!)) !== tick
    // Lengths are whole frames; where frames are no whole number of ticks, each end rounds by itself.
    const hair = track.kind === 'picture' ? 1 : 0
    for (const tick of [at - before, at + after])
      if (rate && off(tick) && ![tick - hair, tick + hair].some((near) => !off(near)))
        add('grid', 'a transition is off the grid', id)
  }
  for (const [id, length] of taken)
    if (length > project.clips[id]!.length) add('transition', 'transitions overlap in a clip', id)
}
