import { formatRate, ticksPerFrame, type Project, type Rate } from '@dusk/timeline'

/** How footage of a rate falls on the frames of a reel, in words; `null` where it falls evenly. */
export function rateMisfit(footage: Rate, reel: Rate): string | null {
  const ratio = ticksPerFrame(footage) / ticksPerFrame(reel)
  // Rates a thousandth apart, as 29.97 and 30 are, or 59.94 and 30, meet so seldom that nobody sees it.
  const even = (value: number) => Math.abs(value / Math.max(1, Math.round(value)) - 1) < 0.002
  if (even(ratio) || even(1 / ratio)) return null
  if (ratio < 0.5) return 'by turns more and fewer of its frames are left out'
  if (ratio < 1) return `${every(1 / (1 / ratio - 1) + 1)} of its frames is left out`
  return ratio < 2
    ? `${every(1 / (ratio - 1))} of its frames is shown twice`
    : 'its frames are shown by turns more and less often'
}

/** "every sixth", or "about every sixth" where it is not whole. */
function every(n: number): string {
  const names: Record<number, string> = { 2: 'other', 3: 'third', 4: 'fourth', 5: 'fifth', 6: 'sixth' }
  const near = Math.round(n)
  return `${Math.abs(n - near) < 0.05 ? '' : 'about '}every ${names[near] ?? `${near}th`}`
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
