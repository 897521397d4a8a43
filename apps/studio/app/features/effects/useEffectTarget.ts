import { computed, type ComputedRef } from 'vue'
import { clipName, compareOrder, reading, type Clip, type Effect, type EffectOwner } from '@dusk/timeline'
import { useDesk } from '~/features/timeline/deskStore'
import { useProject } from '~/features/project/projectStore'

/** What a picture effect would go on: the selected pictures, the selected track, or the whole reel. */
export interface EffectTarget {
  owner: EffectOwner
  ids: string[]
  /** What it is, in words. */
  words: string
  /** Sources that the clips play, where they do. */
  sources: string[]
}

/** What the drawer acts on now. */
export function useEffectTarget(): ComputedRef<EffectTarget> {
  const project = useProject()
  const desk = useDesk()
  return computed(() => {
    const document = project.document
    const clips = [...desk.selection]
      .map((id) => document?.clips[id])
      .filter((clip): clip is Clip => !!clip && clip.stream === null)
    if (document && clips.length > 0) {
      const words = clips.length > 1 ? `${clips.length} pictures` : clipName(reading(document), clips[0]!)
      const sources = new Set(clips.flatMap((clip) => (clip.kind === 'media' ? [clip.assetId] : [])))
      return { owner: 'clip', ids: clips.map((clip) => clip.id), words, sources: [...sources] }
    }
    const track = desk.trackId ? document?.tracks[desk.trackId] : undefined
    if (track?.kind === 'picture') return { owner: 'track', ids: [track.id], words: track.name, sources: [] }
    return { owner: 'reel', ids: [project.reelId], words: 'the whole reel', sources: [] }
  })
}

/** The stack of picture effects of something, first to last. */
export function pictureStack(effects: Record<string, Effect>, ownerId: string): Effect[] {
  return Object.values(effects)
    .filter((effect) => effect.ownerId === ownerId && effect.domain === 'picture')
    .sort(compareOrder)
}
