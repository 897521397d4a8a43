import { snapToFrame, snapToSample } from '../time/ticks'
import { ENTITY_KINDS, type Project } from './project'
import { clipEnd, clipsByTrack } from './query'

/** A rule of the document that does not hold. */
export interface Problem {
  rule: 'overlap' | 'grid' | 'missing' | 'link' | 'kind' | 'id'
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
    const asset = project.assets[clip.assetId]
    if (!track) {
      add('missing', 'a clip sits on no track', clip.id)
      continue
    }
    const reel = project.reels[track.reelId]
    if (!asset) {
      add('missing', 'a clip has no source', clip.id)
      continue
    }
    if (!reel) continue
    if (track.kind === 'picture') {
      if (!asset.picture || clip.stream !== null) add('kind', `${asset.name} has no picture for this track`, clip.id)
      const { rate } = reel.format
      if (snapToFrame(clip.start, rate) !== clip.start || snapToFrame(clipEnd(clip), rate) !== clipEnd(clip))
        add('grid', `a picture clip of ${asset.name} is off the frame grid`, clip.id)
    } else {
      if (clip.stream === null || !asset.sounds[clip.stream])
        add('kind', `${asset.name} has no such sound stream`, clip.id)
      if (snapToSample(clip.start) !== clip.start || snapToSample(clip.length) !== clip.length)
        add('grid', `a sound clip of ${asset.name} is off the sample grid`, clip.id)
    }
    if (clip.link) {
      const other = linkReel.get(clip.link)
      if (other && other !== track.reelId) add('link', 'linked clips lie in different reels', clip.id)
      linkReel.set(clip.link, track.reelId)
    }
  }

  for (const list of clipsByTrack(project).values()) {
    for (let i = 1; i < list.length; i++) {
      const [a, b] = [list[i - 1]!, list[i]!]
      if (clipEnd(a) > b.start) add('overlap', 'two clips overlap on a track', a.id, b.id)
    }
  }
  return problems
}
