import {
  clipEnd,
  clipsOn,
  sourceTimeAt,
  TICKS_PER_SECOND,
  tracksOf,
  type Asset,
  type Clip,
  type SingleInput,
  type MediaClip,
  type Project,
} from '@dusk/timeline'

/** File in stock with a short tone at the beginning of each second. */
export const PIPS = 'second-pips.wav'

/** The tones of a countdown: what is linked to it and comes from that file. */
export function pipsOf(project: Project, clip: Clip): MediaClip[] {
  if (!clip.link) return []
  return Object.values(project.clips).filter(
    (other): other is MediaClip =>
      other.kind === 'media' && other.link === clip.link && project.assets[other.assetId]?.name === PIPS,
  )
}

/** Whether tones fall beside the seconds that a countdown counts, as after a trim of its end. */
export function pipsAreOff(project: Project, clip: Clip): boolean {
  return pipsOf(project, clip).some((pip) => {
    const late = (clipEnd(clip) - pip.start + sourceTimeAt(pip, pip.start)) % TICKS_PER_SECOND
    return Math.min(late, TICKS_PER_SECOND - late) > TICKS_PER_SECOND / 1000
  })
}

/**
 * The commands that put a tone to each second of a countdown, tied to it: pieces of the stock's sound, so laid that a
 * tone falls on every whole second before the clip's end, `from` of them at most. Tones that it had give way.
 * @returns words when no open sound track has room
 */
export function planPips(project: Project, clip: Clip, asset: Asset, from: number): SingleInput[] | string {
  const old = new Set(pipsOf(project, clip).map(({ id }) => id))
  const end = clipEnd(clip)
  const begin = Math.max(clip.start, end - from * TICKS_PER_SECOND)
  const reelId = project.tracks[clip.trackId]!.reelId
  const free = tracksOf(project, reelId).filter(
    (track) =>
      track.kind === 'sound' &&
      !track.locked &&
      clipsOn(project, track.id).every((other) => old.has(other.id) || clipEnd(other) <= begin || other.start >= end),
  )
  const track = free.find(({ purpose }) => purpose === 'effects') ?? free[0]
  if (!track) return 'There is no sound track with room beneath this countdown. Add one.'
  const pieces = []
  // Backwards from the end in lengths of whole seconds; the first piece begins within a second.
  const whole = Math.floor(asset.length / TICKS_PER_SECOND) * TICKS_PER_SECOND
  for (let to = end; to > begin; to -= whole) {
    const start = Math.max(begin, to - whole)
    const source = (TICKS_PER_SECOND - ((to - start) % TICKS_PER_SECOND)) % TICKS_PER_SECOND
    // What begins within a second may be as long as the sound less that part.
    const late = Math.max(0, to - start + source - asset.length)
    pieces.push({
      clipId: crypto.randomUUID(),
      trackId: track.id,
      assetId: asset.id,
      stream: 0,
      start: start + late,
      length: to - start - late,
      source: source + late,
      link: null,
    })
  }
  const away: SingleInput[] = old.size > 0 ? [{ type: 'remove', clipIds: [...old], closeUp: false, linked: false }] : []
  return [
    ...away,
    { type: 'place', mode: 'free', pieces },
    { type: 'link', clipIds: [clip.id, ...pieces.map(({ clipId }) => clipId)] },
  ]
}
