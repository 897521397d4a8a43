import type { Clip, Effect, Params } from '@dusk/timeline'
import { useProject } from '~/features/project/projectStore'
import type { DropPlace, TimelineDrop } from '~/features/registry/feature'

/** An effect that is dragged, as galleries give it. */
interface Dragged {
  kind: string
  settings: Params
  /** Several at once, under a name of their own. */
  look?: { name: string; effects: readonly Omit<Effect, 'id' | 'owner' | 'ownerId' | 'order' | 'on'>[] }
}

/**
 * Dropping effects on the timeline: on the clip under the pointer, beside clips on the whole track.
 * @param key where the dragged data hold the effect
 * @param nameOf what an effect is called
 * @param wrong said over tracks of the other kind
 */
export function useEffectDrop(
  domain: Effect['domain'],
  key: string,
  nameOf: (kind: string) => string | undefined,
  wrong: string,
): TimelineDrop {
  const project = useProject()
  const target = ({ track, start }: DropPlace): { track: { id: string; name: string }; clip: Clip | null } | null => {
    if (track?.kind !== domain) return null
    const at = start(0)
    const clip = Object.values(project.document?.clips ?? {}).find(
      (entry) => entry.trackId === track.id && entry.start <= at && entry.start + entry.length > at,
    )
    return { track, clip: clip ?? null }
  }
  return {
    follow(place, data) {
      const found = target(place)
      if (!found) return { ghosts: [], words: wrong, refused: true }
      const { clip, track } = found
      const { kind, look } = data[key] as Dragged
      const name = look?.name ?? nameOf(kind) ?? 'effect'
      return {
        ghosts: clip ? [{ trackId: clip.trackId, start: clip.start, length: clip.length }] : [],
        words: clip ? `${name} on this clip` : `${name} on ${track.name}`,
        refused: false,
      }
    },
    drop(place, data) {
      const found = target(place)
      if (!found) return
      const { kind, settings, look } = data[key] as Dragged
      project.perform({
        type: 'addEffects',
        owner: found.clip ? 'clip' : 'track',
        ownerIds: [found.clip?.id ?? found.track.id],
        effects: look ? [...look.effects] : [{ domain, kind, settings, strength: 100 }],
      })
    },
  }
}
