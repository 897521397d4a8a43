import { onScopeDispose } from 'vue'
import { applyCommand, clipEnd, commandSchema, CommandRefused, type CommandInput } from '@dusk/timeline'
import { usePlayer } from '~/features/player/usePlayhead'
import { useSource } from '~/features/player/sourceStore'
import { useProject } from '~/features/project/projectStore'
import type { SoundTarget } from './useSoundTarget'

const TRIAL = '00000000-0000-4000-8000-000000000000'
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

  function begin(command: CommandInput, target: SoundTarget): void {
    end()
    waiting = setTimeout(() => {
      if (!project.document || source.assetId) return
      try {
        const tried = applyCommand(project.document, commandSchema.parse(command), TRIAL).project
        const tick = player.place()
        back = { tick, started: !player.playing.value }
        player.tryOut(tried, { heard: true })
        if (!back.started) return
        const { clip } = target
        if (clip && (tick < clip.start || tick >= clipEnd(clip))) player.seek(clip.start)
        void player.play()
      } catch (error) {
        if (!(error instanceof CommandRefused)) throw error
      }
    }, REST)
  }

  onScopeDispose(end)
  return { begin, end }
}
