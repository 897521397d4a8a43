import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import type { Track } from '@dusk/timeline'
import { useProject } from '~/features/project/projectStore'
import type { Destination } from './drop'

/** Reels whose aims are remembered. */
const REMEMBERED = 100

type Aim = Partial<Record<Track['kind'], string>>

/** Which picture and which sound track footage goes to when it comes in, for each reel; remembered in this browser. */
export const useAim = defineStore('aim', () => {
  const project = useProject()
  const byReel = useLocalStorage<[reelId: string, aim: Aim][]>('dusk.aims', [])

  /** The track of a kind that is aimed at in the reel that is open; `null` when there is none, or it is locked. */
  function trackOf(kind: Track['kind']): Track | null {
    const id = byReel.value.find(([reelId]) => reelId === project.reelId)?.[1][kind]
    const track = id ? project.document?.tracks[id] : undefined
    return track && track.reelId === project.reelId && track.kind === kind && !track.locked ? track : null
  }

  /** Aims at a track, or at none of its kind when it was aimed at. */
  function toggle(track: Track): void {
    const old = byReel.value.find(([reelId]) => reelId === track.reelId)?.[1] ?? {}
    const next = { ...old, [track.kind]: old[track.kind] === track.id ? undefined : track.id }
    const others = byReel.value.filter(([reelId]) => reelId !== track.reelId)
    byReel.value = [...others, [track.reelId, next] as [string, Aim]].slice(-REMEMBERED)
  }

  /** Where what comes in goes, with the track under the pointer. */
  const destination = (target: Track | null = null): Destination => ({
    target,
    picture: trackOf('picture'),
    sound: trackOf('sound'),
  })

  return { trackOf, toggle, destination }
})
