import { clipEnd, clipsOn, tracksOf, type Clip, type Project, type Transition } from '@dusk/timeline'

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
    return own.filter((cut) => Math.abs(cut.at - best.at) < 35_280_000)
  }
  const pictures = tracksOf(project, reelId).filter(
    (track) => track.kind === 'picture' && !track.hidden && !track.locked,
  )
  const best = near(pictures.flatMap((track) => cutsOn(project, track.id).filter((cut) => cut.left && cut.right)))
  if (!best) return []
  // The sound of both shots, cut at the same place, is faded with them.
  const links = new Set([best.left!.link, best.right!.link])
  const together = chosen.filter(
    (cut) =>
      cut.trackId !== best.trackId &&
      cut.left &&
      cut.right &&
      cut.left.link &&
      links.has(cut.left.link) &&
      links.has(cut.right.link) &&
      Math.abs(cut.at - best.at) < 35_280_000,
  )
  return [best, ...together]
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
