import { computed, type ComputedRef } from 'vue'
import { clipName, compareOrder, reading, type Clip, type Effect, type EffectOwner } from '@dusk/timeline'
import { useDesk } from '~/features/timeline/deskStore'
import { useProject } from '~/features/project/projectStore'

/** What an effect would go on: selected clips, the selected track, or the whole reel. */
export interface EffectTarget {
  owner: EffectOwner
  ids: string[]
  /** What it is, in words. */
  words: string
  /** The clips among it; the first is the one that is listened to. */
  clips: Clip[]
}

/** What a drawer of effects on pictures or on sounds acts on now. */
export function useEffectTarget(domain: Effect['domain']): ComputedRef<EffectTarget> {
  const project = useProject()
  const desk = useDesk()
  return computed(() => {
    const document = project.document
    const clips = [...desk.selection]
      .map((id) => document?.clips[id])
      .filter((clip): clip is Clip => !!clip && (clip.stream === null) === (domain === 'picture'))
    if (document && clips.length > 0) {
      const words = clips.length > 1 ? `${clips.length} ${domain}s` : clipName(reading(document), clips[0]!)
      return { owner: 'clip', ids: clips.map((clip) => clip.id), words, clips }
    }
    const track = desk.trackId ? document?.tracks[desk.trackId] : undefined
    if (track?.kind === domain) return { owner: 'track', ids: [track.id], words: track.name, clips: [] }
    return { owner: 'reel', ids: [project.reelId], words: 'the whole reel', clips: [] }
  })
}

/** The stack of effects of something on its pictures or its sounds, first to last. */
export function effectStack(domain: Effect['domain'], effects: Record<string, Effect>, ownerId: string): Effect[] {
  return Object.values(effects)
    .filter((effect) => effect.ownerId === ownerId && effect.domain === domain)
    .sort(compareOrder)
}
