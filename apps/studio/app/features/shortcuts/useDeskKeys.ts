import { useEventListener } from '@vueuse/core'
import { onScopeDispose } from 'vue'
import { usePlayer } from '~/features/player/usePlayhead'
import { keyNames, learnLayout } from './keys'
import { useShortcuts } from './shortcutsStore'
import { useActionList, useFeatures } from '~/features/registry/feature'

function typing(target: EventTarget | null): boolean {
  // A slider takes no letters; it keeps the keys it moves by to itself.
  if (target instanceof HTMLInputElement && target.type === 'range') return false
  return target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
}

/** Steps a second while the pause key is held with one of those that play. */
const CREEP = 8

/** The key that pauses, held down together with one that plays: frame by frame, slowly, as long as both are held. */
function useCreep() {
  const player = usePlayer()
  /** Codes of the keys that are down. */
  let [pause, step] = ['', '']
  let timer: ReturnType<typeof setInterval> | null = null
  const stop = () => {
    if (timer) clearInterval(timer)
    timer = null
  }
  onScopeDispose(stop)
  return {
    /** Whether a key that is pressed now is a part of it. */
    take(action: string, code: string): boolean {
      if (action === 'play.pause') pause = code
      const by = { 'play.on': 1, 'play.back': -1 }[action]
      if (!by || !pause || pause === code) return false
      // A key that is held is reported again and again.
      if (step === code) return true
      stop()
      step = code
      player.step(by)
      timer = setInterval(() => player.step(by), 1000 / CREEP)
      return true
    },
    let(code: string): void {
      if (code === pause) pause = ''
      if (code === step) step = ''
      if (!pause || !step) stop()
    },
  }
}

/** Listens to the desk's keys while the page is open. */
export function useDeskKeys(): void {
  const shortcuts = useShortcuts()
  const actions = new Map(useActionList().map((action) => [action.id, action]))
  for (const { keys } of useFeatures()) if (keys) shortcuts.ship(keys)
  void shortcuts.load()
  void learnLayout()

  const creep = useCreep()
  useEventListener(document, 'keyup', (event) => creep.let(event.code))
  useEventListener(document, 'keydown', (event) => {
    if (typing(event.target) || document.querySelector('[role="dialog"]')) return
    const names = keyNames(Object.assign(event, { altGraph: event.getModifierState('AltGraph') }))
    const key = names.find((name) => shortcuts.byKey.has(name))
    const action = key ? actions.get(shortcuts.byKey.get(key)!) : undefined
    if (!action) return
    // An open menu keeps the arrows and Escape for itself.
    if (document.querySelector('[role="menu"]') && /^(↑|↓|Escape|Space)$/.test(key!)) return
    // A focused button keeps Space and Enter for itself only when it is not on the desk's own surface.
    if (key === 'Space' && event.target instanceof HTMLButtonElement) event.target.blur()
    event.preventDefault()
    if (creep.take(action.id, event.code)) return
    action.run()
  })
}
