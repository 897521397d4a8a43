import { watchDebounced } from '@vueuse/core'
import { formatRate } from '@dusk/timeline'
import { useProject } from '~/features/project/projectStore'
import { useNotices } from '~/features/ui/noticesStore'
import { misfits } from './rateFit'

const told = (reelId: string) => `dusk-reel-rates/${reelId}`

/** Says once of each source in a reel that its frame rate does not fit, and what is done about it. */
export function useRateNotice(): void {
  const project = useProject()
  const notices = useNotices()
  /** The last message, with the sources that it is about. */
  let said: { reelId: string; text: string; of: ReturnType<typeof misfits> } | null = null
  watchDebounced(
    () => [project.document, project.reelId] as const,
    ([document, reelId]) => {
      const reel = document?.reels[reelId]
      if (!document || !reel) return
      const known = new Set((localStorage.getItem(told(reelId)) ?? '').split(' '))
      const fresh = misfits(document, reelId).filter(({ assetId }) => !known.has(assetId))
      if (fresh.length === 0) return
      for (const { assetId } of fresh) known.add(assetId)
      localStorage.setItem(told(reelId), [...known].join(' ').trim())
      // One message for all, where films come in one after the other.
      const shown = said?.reelId === reelId && notices.list.find(({ text }) => text === said?.text)
      const all = shown ? [...said!.of, ...fresh] : fresh
      if (shown) notices.drop(shown.id)
      const [first] = fresh
      const rate = formatRate(reel.format.rate)
      const text =
        (all.length === 1
          ? `${first!.name} has ${first!.rate} frames/s and this reel ${rate}: ${first!.words}. `
          : `${all.length} sources have other frame rates than this reel’s ${rate}, such as ${first!.name} with ` +
            `${first!.rate}: ${first!.words}. `) + 'The details of a clip can blend frames, or make those between.'
      said = { reelId, text, of: all }
      notices.say(text)
    },
    { debounce: 800, immediate: true },
  )
}
