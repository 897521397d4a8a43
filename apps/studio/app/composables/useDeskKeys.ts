import { useEventListener } from '@vueuse/core'
import { useDesk } from '~/stores/desk'
import { useProject } from '~/stores/project'
import { useDeskActions, usePlayer } from './useDeskActions'

/** Keys of the desk, as they are shown in hints. */
export const KEYS = {
  split: 'X',
  splitAll: 'Shift X',
  remove: 'Delete',
  closeUp: 'Backspace',
  undo: 'Ctrl Z',
  redo: 'Ctrl Shift Z',
  snap: 'G',
  fit: '0',
  zoomIn: '+',
  zoomOut: '−',
} as const

function typing(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
}

/** Listens to the desk's keys while the page is open. */
export function useDeskKeys(): void {
  const project = useProject()
  const desk = useDesk()
  const player = usePlayer()
  const actions = useDeskActions()

  const plain: Record<string, () => void> = {
    ' ': () => player.toggle(),
    j: () => player.shuttle(-1),
    k: () => player.pause(),
    l: () => player.shuttle(1),
    ArrowLeft: () => player.step(-1),
    ArrowRight: () => player.step(1),
    ArrowUp: () => actions.jump(-1),
    ArrowDown: () => actions.jump(1),
    Home: () => player.seek(0),
    End: () => player.seek(Infinity),
    x: () => actions.split(),
    Delete: () => actions.remove(false),
    Backspace: () => actions.remove(true),
    g: () => (desk.snap = !desk.snap),
    '0': () => actions.fit(),
    '+': () => desk.zoom(1.4),
    '=': () => desk.zoom(1.4),
    '-': () => desk.zoom(1 / 1.4),
    Escape: () => desk.select([], null),
  }
  const shifted: Record<string, () => void> = {
    X: () => actions.split(true),
    ArrowLeft: () => player.step(-10),
    ArrowRight: () => player.step(10),
  }

  useEventListener(document, 'keydown', (event) => {
    if (typing(event.target) || event.altKey || document.querySelector('[role="dialog"]')) return
    const key = event.key
    let run: (() => void) | undefined
    if (event.ctrlKey || event.metaKey) {
      if (key.toLowerCase() === 'z') run = event.shiftKey ? project.redo : project.undo
      else if (key.toLowerCase() === 'y') run = project.redo
      else if (key.toLowerCase() === 'a') run = actions.selectAll
    } else
      run =
        (event.shiftKey ? shifted[key] : undefined) ??
        plain[key] ??
        (event.shiftKey ? undefined : plain[key.toLowerCase()])
    if (!run) return
    // A focused button keeps Space and Enter for itself only when it is not on the desk's own surface.
    if (key === ' ' && event.target instanceof HTMLButtonElement) event.target.blur()
    event.preventDefault()
    run()
  })
}
