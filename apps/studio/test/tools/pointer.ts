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
