import { computed } from 'vue'
import type { Animated, Track } from '@dusk/timeline'
import { useProject } from '~/features/project/projectStore'

/** How many clips lie on a track, in words, and the change of its settings. */
export function useTrackParams(track: () => Track) {
  const project = useProject()
  const clips = computed(() => {
    const n = Object.values(project.document!.clips).filter((clip) => clip.trackId === track().id).length
    return `${n} ${n === 1 ? 'clip' : 'clips'}`
  })
  const change = (set: Record<string, Animated | null>) =>
    project.perform({ type: 'setTrackParams', trackId: track().id, set: set as never })
  return { clips, change }
}
