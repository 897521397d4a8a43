/** A pointer with its keys, at a place on screen. */
export interface Keys {
  shiftKey?: boolean
  ctrlKey?: boolean
  altKey?: boolean
}

export const pointer = (type: string, [x, y]: readonly [number, number], keys: Keys = {}) =>
  new PointerEvent(type, { clientX: x, clientY: y, button: 0, bubbles: true, ...keys })

/** Makes an element one that can be dragged on: pages without a screen capture no pointer and have no places. */
export function placed(element: Element, box = new DOMRect(0, 0, 1000, 600)): HTMLElement {
  const target = element as HTMLElement
  target.setPointerCapture = () => {}
  target.getBoundingClientRect = () => box
  return target
}

/** Presses on an element, goes through places and lets go there, unless told not to. */
export function dragOn(element: Element, path: (readonly [number, number])[], keys: Keys = {}, letGo = true): void {
  ;(element as HTMLElement).setPointerCapture = () => {}
  element.dispatchEvent(pointer('pointerdown', path[0]!, keys))
  for (const place of path.slice(1)) element.dispatchEvent(pointer('pointermove', place, keys))
  if (letGo) element.dispatchEvent(pointer('pointerup', path.at(-1)!, keys))
}

export const escape = () => document.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', bubbles: true }))

/** A place on screen at which things are dragged. */
export function surface(): HTMLElement {
  const element = placed(document.createElement('div'))
  document.body.append(element)
  return element
}

/** Presses at a place with what a handler does there, and drags through others; lets go unless told not to. */
export function drag(
  on: HTMLElement,
  begin: (down: PointerEvent) => void,
  path: (readonly [number, number])[],
  keys: Keys = {},
  letGo = true,
) {
  on.addEventListener('pointerdown', begin as EventListener, { once: true })
  dragOn(on, path, keys, letGo)
}
