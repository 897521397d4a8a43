import { clipEnd, clipsOn, TICKS_PER_SECOND, tracksOf, type Clip, type Project, type Transition } from '@dusk/timeline'

/** How far the cuts of a picture and of its linked sound may lie apart to be faded together: 50 ms. */
const TOGETHER = TICKS_PER_SECOND / 20

/** A place where a transition can go: between two clips that touch, or at the start or end of one. */
export interface Cut {
  trackId: string
  left: Clip | null
  right: Clip | null
  /** Reel position in ticks. */
  at: number
}

/** Every place on a track where a transition can go, in order. */
export function cutsOn(project: Project, trackId: string): Cut[] {
  const cuts: Cut[] = []
  let before: Clip | null = null
  for (const clip of clipsOn(project, trackId)) {
    if (before && clipEnd(before) === clip.start) cuts.push({ trackId, left: before, right: clip, at: clip.start })
    else {
      if (before) cuts.push({ trackId, left: before, right: null, at: clipEnd(before) })
      cuts.push({ trackId, left: null, right: clip, at: clip.start })
    }
    before = clip
  }
  if (before) cuts.push({ trackId, left: before, right: null, at: clipEnd(before) })
  return cuts
}

/** The cut of a track nearest to a reel position, within `reach` ticks. */
export function nearestCut(project: Project, trackId: string, at: number, reach = Infinity): Cut | null {
  let best: Cut | null = null
  for (const cut of cutsOn(project, trackId))
    if (Math.abs(cut.at - at) <= reach && (!best || Math.abs(cut.at - at) < Math.abs(best.at - at))) best = cut
  return best
}

/** A cut of pictures with the cuts of their linked sounds at the same place: those are faded with it. */
export function withSound(project: Project, reelId: string, cut: Cut): Cut[] {
  const linksOf = (clip: Clip | null) => (clip?.link ? [clip.link] : [])
  const [left, right] = [new Set(linksOf(cut.left)), new Set(linksOf(cut.right))]
  const goes = (other: Clip | null, own: Clip | null, links: ReadonlySet<string>) =>
    other === null ? own === null : links.has(other.link ?? '')
  const together = tracksOf(project, reelId)
    .filter((track) => track.id !== cut.trackId && !track.locked)
    .flatMap((track) => cutsOn(project, track.id))
    .filter(
      (other) =>
        Math.abs(other.at - cut.at) < TOGETHER &&
        goes(other.left, cut.left, left) &&
        goes(other.right, cut.right, right),
    )
  return [cut, ...together]
}

/** Cuts without a transition on them. */
export function bareCuts(project: Project, cuts: readonly Cut[]): Cut[] {
  const taken = new Set(
    Object.values(project.transitions).flatMap((other) => [`e${other.leftId}`, `s${other.rightId}`]),
  )
  return cuts.filter((cut) => !taken.has(`e${cut.left?.id}`) && !taken.has(`s${cut.right?.id}`))
}

/**
 * The cuts that a key means: those between clips that are selected and touch; with one clip selected its nearest end;
 * with none, the cut nearest to the playhead on the foremost picture track that has one.
 */
export function meantCuts(project: Project, reelId: string, selection: ReadonlySet<string>, playhead: number): Cut[] {
  const chosen = tracksOf(project, reelId).flatMap((track) => cutsOn(project, track.id))
  const between = chosen.filter(
    (cut) => cut.left && cut.right && selection.has(cut.left.id) && selection.has(cut.right.id),
  )
  if (between.length > 0) return between
  const near = (cuts: Cut[]) => cuts.sort((a, b) => Math.abs(a.at - playhead) - Math.abs(b.at - playhead))[0]
  const own = chosen.filter((cut) => selection.has(cut.left?.id ?? '') || selection.has(cut.right?.id ?? ''))
  if (own.length > 0) {
    const best = near(own)!
    // The sound of a pair is faded with its picture.
    return own.filter((cut) => Math.abs(cut.at - best.at) < TOGETHER)
  }
  const pictures = tracksOf(project, reelId).filter(
    (track) => track.kind === 'picture' && !track.hidden && !track.locked,
  )
  const best = near(pictures.flatMap((track) => cutsOn(project, track.id).filter((cut) => cut.left && cut.right)))
  if (!best) return []
  return withSound(project, reelId, best)
}

/**
 * The selected transitions that a key changes: none where the playhead stands on another cut, or where all of them are
 * already as the key would make them. The cuts nearest to the playhead are meant then.
 * @param near those cuts
 * @param stands whether the playhead is right on them
 */
export function meantTransitions(
  chosen: readonly Transition[],
  near: readonly Cut[],
  stands: boolean,
  alike: (transition: Transition) => boolean,
): readonly Transition[] {
  const own = near.some((cut) =>
    chosen.some(({ leftId, rightId }) => leftId === (cut.left?.id ?? null) && rightId === (cut.right?.id ?? null)),
  )
  return near.length > 0 && !own && (stands || chosen.every(alike)) ? [] : chosen
}

/** A transition of `length` ticks on a cut, centred where there is something on both sides. */
export function transitionFor(cut: Cut, kind: string, length: number, sound: boolean): Omit<Transition, 'trackId'> {
  const [before, after] = cut.left && cut.right ? [length / 2, length / 2] : cut.left ? [length, 0] : [0, length]
  return {
    id: crypto.randomUUID(),
    leftId: cut.left?.id ?? null,
    rightId: cut.right?.id ?? null,
    before: Math.round(before),
    after: Math.round(after),
    kind: sound ? 'equalPower' : kind,
    settings: {},
    missing: 'shorten',
  }
}

/** What of a transition cannot be had from hidden footage, in words; `null` when all is there. */
export function missingWords(wanted: number, got: number, seconds: (ticks: number) => string): string | null {
  if (got >= wanted - 1) return null
  return got <= 0
    ? 'no hidden footage here, so the edge frames are held'
    : `shortened to ${seconds(got)}: no more hidden footage`
}
