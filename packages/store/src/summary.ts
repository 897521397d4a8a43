import { reelLength, reelsOf, trackClips, tracksOf, type Project } from '@dusk/timeline'

/** What a project's card shows: its length and the first picture in its first reel. */
export function summary(project: Project): { length: number; posterAsset: string | null } {
  const reel = reelsOf(project)[0]
  if (!reel) return { length: 0, posterAsset: null }
  const lanes = trackClips(project)
  let posterAsset: string | null = null
  for (const track of tracksOf(project, reel.id)) {
    if (track.kind !== 'picture') continue
    const first = lanes.get(track.id)?.find((clip) => clip.kind === 'media')
    if (first?.kind === 'media') {
      posterAsset = first.assetId
      break
    }
  }
  posterAsset ??= Object.values(project.assets).find((asset) => asset.picture)?.id ?? null
  return { length: reelLength(project, reel.id), posterAsset }
}
