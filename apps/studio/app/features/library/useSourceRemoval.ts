import { useProject } from '~/features/project/projectStore'
import { useDesk } from '~/features/timeline/deskStore'
import { useNotices } from '~/features/ui/noticesStore'

/** Taking sources out of the library: what goes with them is said, and can be had back at once. */
export function useSourceRemoval() {
  const project = useProject()
  const desk = useDesk()
  const notices = useNotices()

  /** Where sources are used, in words: how often in each reel; nothing where they are not. */
  function usesOf(assetIds: ReadonlySet<string>): string {
    const document = project.document
    if (!document) return ''
    const counts = new Map<string, number>()
    const seen = new Set<string>()
    for (const clip of Object.values(document.clips)) {
      if (clip.kind !== 'media' || !assetIds.has(clip.assetId)) continue
      // A picture and its sound are one use.
      const use = clip.link ?? clip.id
      const reel = document.reels[document.tracks[clip.trackId]!.reelId]!
      if (seen.has(use)) continue
      seen.add(use)
      counts.set(reel.name, (counts.get(reel.name) ?? 0) + 1)
    }
    return [...counts].map(([name, times]) => `${times === 1 ? 'once' : `${times} times`} in “${name}”`).join(', ')
  }

  function remove(assetIds: readonly string[]): void {
    const first = project.document?.assets[assetIds[0] ?? '']
    if (!first) return
    const uses = usesOf(new Set(assetIds))
    if (!project.perform({ type: 'removeAssets', assetIds: [...assetIds] })) return
    const step = project.lastStep()
    desk.assets = new Set()
    const what = assetIds.length === 1 ? `${first.name} is` : `${assetIds.length} sources are`
    const more = uses ? ` It was used ${uses}: those clips went with it.` : ''
    notices.say(
      `${what} removed.${assetIds.length === 1 ? more : more.replace('It was', 'They were').replace('it.', 'them.')}`,
      'plain',
      {
        label: 'Undo',
        run: () => project.undoStep(step),
      },
    )
  }

  return { remove, usesOf }
}
