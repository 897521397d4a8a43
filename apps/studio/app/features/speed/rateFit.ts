import { formatRate, ticksPerFrame, type Project, type Rate } from '@dusk/timeline'

/** How footage of a rate falls on the frames of a reel, in words; `null` where it falls evenly. */
export function rateMisfit(footage: Rate, reel: Rate): string | null {
  const ratio = ticksPerFrame(footage) / ticksPerFrame(reel)
  // Rates a thousandth apart, as 29.97 and 30 are, or 59.94 and 30, meet so seldom that nobody sees it.
  const even = (value: number) => Math.abs(value / Math.max(1, Math.round(value)) - 1) < 0.002
  if (even(ratio) || even(1 / ratio)) return null
  if (ratio < 0.5) return 'by turns more and fewer of its frames are left out'
  if (ratio < 1) return `${share(1 - ratio)} left out`
  return ratio < 2 ? `${share(ratio - 1)} shown twice` : 'its frames are shown by turns more and less often'
}

const ORDINALS: Record<number, string> = { 2: 'other', 3: 'third', 4: 'fourth', 5: 'fifth', 6: 'sixth' }
const NUMBERS = ['', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight']

/** A part of the frames as a sentence begins: "every sixth of its frames is", "two of every five of its frames are". */
function share(part: number): string {
  const near = Math.round(1 / part)
  const nearly = `every ${ORDINALS[near] ?? `${near}th`} of its frames is`
  if (Math.abs(1 / part - near) < 0.05) return nearly
  for (let of = 2; of < NUMBERS.length; of++) {
    const some = Math.round(part * of)
    if (some > 1 && Math.abs(part - some / of) < 0.004)
      return `${NUMBERS[some]} of every ${NUMBERS[of]} of its frames are`
  }
  return `about ${nearly}`
}

/** Sources in a reel whose rate does not fall evenly on its frames, as they are played there, with their words. */
export function misfits(
  project: Project,
  reelId: string,
): { assetId: string; name: string; rate: string; words: string }[] {
  const reel = project.reels[reelId]
  if (!reel) return []
  const found = new Map<string, { assetId: string; name: string; rate: string; words: string }>()
  for (const clip of Object.values(project.clips)) {
    if (clip.kind !== 'media' || clip.stream !== null || found.has(clip.assetId)) continue
    if (project.tracks[clip.trackId]?.reelId !== reelId) continue
    if (clip.map.kind !== 'constant' || clip.map.speed !== 1) continue
    if ((clip.params.slowMotion ?? 'repeat') !== 'repeat') continue
    const asset = project.assets[clip.assetId]
    const rate = asset?.picture?.rate
    const words = rate && rateMisfit(rate, reel.format.rate)
    if (words) found.set(clip.assetId, { assetId: clip.assetId, name: asset.name, rate: formatRate(rate), words })
  }
  return [...found.values()]
}
