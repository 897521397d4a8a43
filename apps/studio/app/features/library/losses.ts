import { clipName, formatSeconds, formatTimecode, reading, sourceOf, type Clip, type Project } from '@dusk/timeline'

/** Something that a change takes off the film, said for the person. */
export interface Loss {
  /** Id of a clip it is about. */
  clipId: string
  words: string
}

/**
 * What clips lose by a change that may only shorten or remove them, in the order of the reels: found by comparing, so
 * that what is said is what happens. A picture and its sound that lose the same are one loss.
 */
export function lossesOf(before: Project, after: Project): Loss[] {
  const losses: (Loss & { reel: string; start: number })[] = []
  const said = new Set<string>()
  const view = reading(before)
  // A picture comes before its sound.
  const clips = Object.values(before.clips).sort((a, b) => (a.stream ?? -1) - (b.stream ?? -1))
  for (const clip of clips) {
    const what = lossOf(clip, after.clips[clip.id])
    if (!what || said.has(`${clip.link} ${what}`)) continue
    if (clip.link) said.add(`${clip.link} ${what}`)
    const reel = before.reels[before.tracks[clip.trackId]!.reelId]!
    const sound = clip.stream !== null && sourceOf(view, clip)?.picture ? 'the sound of ' : ''
    const at = formatTimecode(clip.start, reel.format.rate)
    const words = `${reel.name}, ${at}: ${sound}${clipName(view, clip)} ${what}`
    losses.push({ clipId: clip.id, words, reel: reel.name, start: clip.start })
  }
  return losses
    .sort((a, b) => a.reel.localeCompare(b.reel) || a.start - b.start)
    .map(({ clipId, words }) => ({ clipId, words }))
}

/** Less than this is the grain of a grid: a hundredth of a second, in ticks. */
const HAIR = 7_056_000

function lossOf(old: Clip, next: Clip | undefined): string | null {
  if (!next) return 'goes'
  const begin = next.start - old.start
  const end = old.start + old.length - next.start - next.length
  const parts = [
    begin >= HAIR && `begins ${formatSeconds(begin)} later`,
    end >= HAIR && `ends ${formatSeconds(end)} earlier`,
  ]
  return parts.filter(Boolean).join(' and ') || null
}
