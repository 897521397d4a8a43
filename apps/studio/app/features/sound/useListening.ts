import { onScopeDispose } from 'vue'
import { clipEnd, type CommandInput } from '@dusk/timeline'
import { usePlayer } from '~/features/player/usePlayhead'
import { useSource } from '~/features/player/sourceStore'
import { useProject } from '~/features/project/projectStore'
import { tried } from '~/features/project/tried'
import type { EffectTarget } from '~/features/effects/useEffectTarget'

/** Milliseconds that a pointer has to rest before something is heard. */
const REST = 220

/** Lets a change be heard before it is made: it plays from the clip, and stops when the pointer leaves. */
export function useListening() {
  const project = useProject()
  const source = useSource()
  const player = usePlayer()
  let waiting: ReturnType<typeof setTimeout> | null = null
  let back: { tick: number; started: boolean } | null = null

  function end(): void {
    if (waiting) clearTimeout(waiting)
    waiting = null
    if (!back) return
    const { tick, started } = back
    back = null
    player.tryOut(null)
    if (started) {
      player.pause()
      player.seek(tick)
    }
  }

  function begin(command: CommandInput, target: EffectTarget): void {
    end()
    waiting = setTimeout(() => {
      if (!project.document || source.assetId) return
      const heard = tried(project.document, command)?.project
      if (!heard) return
      const tick = player.place()
      back = { tick, started: !player.playing.value }
      player.tryOut(heard, { heard: true })
      if (!back.started) return
      const [clip] = target.clips
      if (clip && (tick < clip.start || tick >= clipEnd(clip))) player.seek(clip.start)
      void player.play()
    }, REST)
  }

  onScopeDispose(end)
  return { begin, end }
}
