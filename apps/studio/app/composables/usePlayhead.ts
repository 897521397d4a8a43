import { computed, inject, type InjectionKey } from 'vue'
import { snapToFrame } from '@dusk/timeline'
import type { Player } from '~/lib/player'
import { useProject } from '~/stores/project'
import { useSource } from '~/stores/source'

export const PLAYER: InjectionKey<Player> = Symbol('player')

/** The desk's player. */
export function usePlayer(): Player {
  const player = inject(PLAYER)
  if (!player) throw new Error('There is no desk around this component.')
  return player
}

/** The reel's playhead. While a source is open in the viewer the reel's waits where it was. */
export function usePlayhead() {
  const player = usePlayer()
  const source = useSource()
  const project = useProject()
  const tick = computed(() => (source.assetId ? source.parked : player.tick.value))

  /** Goes to a place of the reel; an open source is closed for it. */
  function goTo(to: number): void {
    if (!source.assetId) return player.seek(to)
    const rate = project.reel?.format.rate
    source.parked = rate ? Math.max(0, snapToFrame(to, rate)) : to
    source.close(player.tick.value)
  }

  return { tick, goTo }
}
