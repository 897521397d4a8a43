import { ref, shallowRef, type Ref } from 'vue'
import { TICKS_PER_SECOND, type Clip } from '@dusk/timeline'
import { pointerDrag } from '~/features/ui/pointerDrag'
import type { GhostClip } from './drop'
import { snapBy, type SnapTarget } from './snapping'
import { useDesk } from './deskStore'
import { usePlayer } from '~/features/player/usePlayhead'

/** Pixels within which a drag sticks. */
const STICK = 8
/** Pixels the pointer may wander before a press is a drag. */
const SLACK = 3
/** Milliseconds from one step of scrolling at an edge to the next. */
export const SCROLL_MS = 30

/** Words beside the pointer. */
export interface DragLabel {
  words: string
  bad: boolean
  x: number
  y: number
}

/**
 * What every drag on the timeline shares: what is shown while it lasts, sticking, scrolling at the edges, Escape.
 * @param lowest how far down the rows can be scrolled, in pixels
 */
export function useDragSession(body: Ref<HTMLElement | null>, lowest: () => number = () => 0) {
  const desk = useDesk()
  const player = usePlayer()
  const ghosts = shallowRef<readonly GhostClip[]>([])
  const bad = ref(false)
  const lifted = shallowRef<ReadonlySet<string>>(new Set())
  const changed = shallowRef<ReadonlyMap<string, Clip>>(new Map())
  const band = shallowRef<{ x0: number; y0: number; x1: number; y1: number } | null>(null)
  const label = shallowRef<DragLabel | null>(null)
  const snapLine = shallowRef<SnapTarget | null>(null)

  function clear(): void {
    ghosts.value = []
    bad.value = false
    lifted.value = new Set()
    changed.value = new Map()
    band.value = null
    label.value = null
    snapLine.value = null
  }

  const local = (event: { clientX: number; clientY: number }) => {
    const box = body.value!.getBoundingClientRect()
    return { x: event.clientX - box.left, y: event.clientY - box.top }
  }

  /** How far to move so that an edge sticks, if sticking is on. */
  function stick(edges: readonly number[], targets: readonly SnapTarget[], event: { ctrlKey: boolean }): number {
    snapLine.value = null
    if (desk.snap === event.ctrlKey) return 0
    const found = snapBy(edges, targets, (STICK / desk.pixelsPerSecond) * TICKS_PER_SECOND)
    snapLine.value = found?.target ?? null
    return found?.by ?? 0
  }

  /** What a press does that is let go where it was pressed; for the next drag only. */
  let clicked: (() => void) | null = null
  const onClick = (run: (() => void) | null) => void (clicked = run)

  /** How far beyond an edge of so many pixels a place is, 60 pixels at most. */
  const beyond = (place: number, size: number, edge: number) =>
    Math.max(-60, Math.min(60, place < edge ? place - edge : place > size - edge ? place - size + edge : 0))

  /** Scrolls on while the pointer is at an edge. @returns whether anything moved */
  function scrollAt({ x, y }: { x: number; y: number }): boolean {
    const across = beyond(x, desk.timelineWidth, 24)
    const down = beyond(y, body.value?.clientHeight ?? Infinity, 12)
    const top = Math.max(0, Math.min(lowest(), desk.scrollY + Math.round(down * 0.3)))
    const left = Math.max(0, desk.scroll + Math.round((across / desk.pixelsPerSecond) * TICKS_PER_SECOND * 0.4))
    if (left === desk.scroll && top === desk.scrollY) return false
    desk.scroll = left
    desk.scrollY = top
    return true
  }

  /** Follows the pointer until it is let go; scrolls at the edges, gives up on Escape. */
  function follow(down: PointerEvent, move: (event: PointerEvent) => void, done: (event: PointerEvent) => void): void {
    let last = down
    let begun = false
    const click = clicked
    clicked = null
    const scroll = setInterval(() => {
      if (begun && scrollAt(local(last))) move(last)
    }, SCROLL_MS)
    pointerDrag(down, {
      slack: SLACK,
      move(event) {
        begun = true
        last = event
        move(event)
      },
      done: (event, moved) => (moved ? done(event) : click?.()),
      end() {
        clearInterval(scroll)
        clear()
        player.refresh()
      },
    })
  }

  return { ghosts, bad, lifted, changed, band, label, snapLine, clear, local, stick, onClick, scrollAt, follow }
}

export type DragSession = ReturnType<typeof useDragSession>
