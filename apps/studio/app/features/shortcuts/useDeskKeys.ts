import { useEventListener } from '@vueuse/core'
import { keyNames, learnLayout } from './keys'
import { useShortcuts } from './shortcutsStore'
import { useActionList, useFeatures } from '~/features/registry/feature'

function typing(target: EventTarget | null): boolean {
  // A slider takes no letters; it keeps the keys it moves by to itself.
  if (target instanceof HTMLInputElement && target.type === 'range') return false
  return target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
}

/** Listens to the desk's keys while the page is open. */
export function useDeskKeys(): void {
  const shortcuts = useShortcuts()
  const actions = new Map(useActionList().map((action) => [action.id, action]))
  for (const { keys } of useFeatures()) if (keys) shortcuts.ship(keys)
  void shortcuts.load()
  void learnLayout()

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
    action.run()
  })
}
