/** What a drag does while it lasts and when it ends. */
export interface PointerDrag {
  /** The pointer is somewhere else now. Also called for the place at which it is let go, before `done`. */
  move(event: PointerEvent): void
  /** It was let go. `moved` is false when it never left the place it was pressed at. */
  done?(event: PointerEvent, moved: boolean): void
  /** Escape was pressed, or the system took the pointer away; `done` is not called then. */
  cancel?(): void
  /** Called once at the very end, however it ended. */
  end?(): void
  /** Pixels the pointer may wander before a press is a drag. */
  slack?: number
}

/**
 * Follows the pointer from a press until it is let go. It listens on the document: what was pressed may be drawn anew
 * or go away meanwhile, and the drag goes on.
 * @returns ends the drag as Escape does
 */
export function pointerDrag(down: PointerEvent, { move, done, cancel, end, slack = 3 }: PointerDrag): () => void {
  let moved = slack === 0
  const far = (event: PointerEvent) => Math.hypot(event.clientX - down.clientX, event.clientY - down.clientY) >= slack
  const mine = (event: PointerEvent) => event.pointerId === down.pointerId
  const stop = new AbortController()
  const finish = () => {
    stop.abort()
    end?.()
  }
  const giveUp = () => {
    cancel?.()
    finish()
  }
  const options = { capture: true, signal: stop.signal }
  document.addEventListener(
    'pointermove',
    (event) => {
      if (!mine(event)) return
      // A button let go outside the window was never reported.
      if (event.buttons === 0 && down.buttons > 0) return giveUp()
      if (!moved && !far(event)) return
      moved = true
      move(event)
    },
    options,
  )
  document.addEventListener(
    'pointerup',
    (event) => {
      if (!mine(event)) return
      // The last move may not have been reported apart from the release.
      moved ||= far(event)
      if (moved) move(event)
      done?.(event, moved)
      finish()
    },
    options,
  )
  document.addEventListener('pointercancel', (event) => mine(event) && giveUp(), options)
  document.addEventListener(
    'keydown',
    (event) => {
      if (event.key !== 'Escape') return
      event.preventDefault()
      event.stopPropagation()
      giveUp()
    },
    options,
  )
  // Text is not marked and no picture is dragged off by the browser itself.
  down.preventDefault()
  const target = down.currentTarget
  if (target instanceof HTMLElement) target.focus({ preventScroll: true })
  return giveUp
}
