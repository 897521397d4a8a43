import { useEventListener } from '@vueuse/core'

/** Parts of the desk that take the focus of what was in them: they can be focused, though not by Tab. */
const HOME = '[data-focus-home]'
/** Milliseconds in which what a key did has reached the page. */
const SETTLED = 80

/**
 * Keeps the focus where the person is working: when a key takes away what had it, as Delete does a clip or Escape a
 * field, it goes to the part of the desk that this was in, not to the top of the page.
 */
export function useKeptFocus(): void {
  useEventListener(
    window,
    'keydown',
    () => {
      const before = document.activeElement
      const home = before?.closest<HTMLElement>(HOME)
      if (!before || !home) return
      setTimeout(() => {
        if (before.isConnected || document.activeElement !== document.body) return
        if (home.isConnected) home.focus({ preventScroll: true })
      }, SETTLED)
    },
    { capture: true },
  )
}
