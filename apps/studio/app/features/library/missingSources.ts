import { reelsInside, reading, type Project } from '@dusk/timeline'

/** Why a source can't be used: its file is gone, or it could not be read in. */
type SourceStates = Readonly<Record<string, { missing?: boolean; state: string } | undefined>>

/**
 * Names of the sources that a reel plays, in itself or in the reels inside it, and whose files are not there.
 * @param states what the server knows of each source
 */
export function missingIn(project: Project, reelId: string, states: SourceStates): string[] {
  const reels = reelsInside(reading(project), reelId)
  const gone = new Set<string>()
  for (const clip of Object.values(project.clips)) {
    if (clip.kind !== 'media' || !reels.has(project.tracks[clip.trackId]!.reelId)) continue
    const state = states[clip.assetId]
    if (state?.missing || state?.state === 'failed') gone.add(clip.assetId)
  }
  return [...gone].map((id) => project.assets[id]?.name ?? 'A source').sort()
}

/** Such names in a sentence, the first few of them. */
export function missingWords(names: readonly string[]): string {
  const shown = names.slice(0, 3).join(', ')
  const more = names.length > 3 ? ` and ${names.length - 3} more` : ''
  return names.length === 1 ? `The file of ${shown} is missing` : `The files of ${shown}${more} are missing`
}
