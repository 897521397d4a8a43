import { clipEnd, trackClips, tracksOf } from '../document/query'
import type { Clip } from '../document/clip'
import type { Project } from '../document/project'
import { SOUND_FADES, type SoundFade, type Transition } from '../document/transition'
import { TICKS_PER_SAMPLE } from '../time/ticks'
import { sourceTimeAt } from './timeMap'

/** A stretch of a piece over which it comes or goes, in samples from the piece's start; may reach beyond it. */
export interface SoundFadePlan {
  from: number
  length: number
  shape: SoundFade
  direction: 'in' | 'out'
}

/** A stretch of one source in the mix. All numbers are samples at 48 kHz. */
export interface SoundPiece {
  assetId: string
  stream: number
  /** Where it begins in the mix, counted from the start of the planned range; may be negative. */
  at: number
  length: number
  /** Sample of the source that plays at `at`. May lie outside the source, which is silent there. */
  from: number
  /** Level change in decibels, clip and track together. */
  gain: number
  fades?: SoundFadePlan[]
}

/** Everything needed to mix a range, as plain data. */
export interface SoundPlan {
  length: number
  pieces: SoundPiece[]
}

/**
 * What is heard from `from` to `to` (ticks). A solo on any sound track silences those without; muted tracks are silent.
 * Sound is at a source's own speed, so one sample of mix is one sample of source.
 */
export function planSound(project: Project, reelId: string, from: number, to: number): SoundPlan {
  const first = Math.round(from / TICKS_PER_SAMPLE)
  const last = Math.round(to / TICKS_PER_SAMPLE)
  return {
    length: Math.max(last - first, 0),
    pieces: piecesOf(project, reelId, first, last, trackClips(project), fadesOf(project)),
  }
}

/** Sound pieces between two samples of a reel, those of nested reels included, counted from the first. */
function piecesOf(
  project: Project,
  reelId: string,
  first: number,
  last: number,
  byTrack: ReadonlyMap<string, readonly Clip[]>,
  changes: ReadonlyMap<string, Changes>,
): SoundPiece[] {
  if (!project.reels[reelId]) throw new RangeError(`The project has no reel ${reelId}.`)
  const tracks = tracksOf(project, reelId).filter((track) => track.kind === 'sound')
  const soloed = tracks.some((track) => track.solo)
  const pieces: SoundPiece[] = []
  for (const track of tracks) {
    if (track.muted || (soloed && !track.solo)) continue
    for (const clip of byTrack.get(track.id) ?? []) {
      if (clip.stream === null || clip.map.kind === 'freeze') continue
      if (clip.gain <= -96 || track.gain <= -96) continue
      const edges = changes.get(clip.id)
      // A crossfade plays footage hidden beyond the trims.
      const start = Math.round((clip.start - (edges?.in?.before ?? 0)) / TICKS_PER_SAMPLE)
      const end = Math.round((clipEnd(clip) + (edges?.out?.after ?? 0)) / TICKS_PER_SAMPLE)
      if (end <= first || start >= last) continue
      const source = Math.round(sourceTimeAt(clip, start * TICKS_PER_SAMPLE) / TICKS_PER_SAMPLE)
      const fades = edges ? fadePlans(clip, edges, start) : undefined
      const gain = clip.gain + track.gain
      if (clip.kind === 'media') {
        if (!project.assets[clip.assetId]?.sounds[clip.stream]) continue
        pieces.push({
          assetId: clip.assetId,
          stream: clip.stream,
          at: start - first,
          length: end - start,
          from: source,
          gain,
          ...(fades ? { fades } : {}),
        })
        continue
      }
      if (clip.kind !== 'reel') continue
      // What is heard of the nested reel, cut to the clip's edges.
      const [a, b] = [Math.max(start, first), Math.min(end, last)]
      const inner = { first: source + a - start, last: source + b - start }
      if (!project.reels[clip.nestedId]) continue
      for (const piece of piecesOf(project, clip.nestedId, inner.first, inner.last, byTrack, changes)) {
        const lead = Math.max(0, -piece.at)
        const length = Math.min(piece.length - lead, inner.last - inner.first - (piece.at + lead))
        if (length <= 0) continue
        pieces.push({
          ...piece,
          at: a - first + piece.at + lead,
          length,
          from: piece.from + lead,
          gain: piece.gain + gain,
          ...(piece.fades || fades
            ? {
                fades: [
                  ...(piece.fades ?? []).map((fade) => ({ ...fade, from: fade.from - lead })),
                  ...(fades ?? []).map((fade) => ({ ...fade, from: fade.from - (a - start) - piece.at - lead })),
                ],
              }
            : {}),
        })
      }
    }
  }
  return pieces
}

/** The transitions at a clip's start and end. */
interface Changes {
  in?: Transition
  out?: Transition
}

function fadesOf(project: Project): Map<string, Changes> {
  const found = new Map<string, Changes>()
  for (const transition of Object.values(project.transitions)) {
    const { leftId, rightId } = transition
    if (leftId) found.set(leftId, { ...found.get(leftId), out: transition })
    if (rightId) found.set(rightId, { ...found.get(rightId), in: transition })
  }
  return found
}

const fadeShape = (transition: Transition): SoundFade =>
  SOUND_FADES.find((shape) => shape === transition.kind) ?? 'equalPower'

/** Fades of a clip whose piece begins at sample `start` of the reel. */
function fadePlans(clip: Clip, edges: Changes, start: number): SoundFadePlan[] {
  const fades: SoundFadePlan[] = []
  const plan = (transition: Transition, cut: number, direction: 'in' | 'out') => {
    const from = Math.round((cut - transition.before) / TICKS_PER_SAMPLE)
    const to = Math.round((cut + transition.after) / TICKS_PER_SAMPLE)
    fades.push({ from: from - start, length: to - from, shape: fadeShape(transition), direction })
  }
  if (edges.in) plan(edges.in, clip.start, 'in')
  if (edges.out) plan(edges.out, clipEnd(clip), 'out')
  return fades
}
