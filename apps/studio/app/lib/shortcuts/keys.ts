/** Names of keys that print nothing, or not what they are called. */
const NAMES: Record<string, string> = {
  ' ': 'Space',
  ArrowLeft: '←',
  ArrowRight: '→',
  ArrowUp: '↑',
  ArrowDown: '↓',
}

/** Keys that only go with others. */
const MODIFIERS = new Set(['Control', 'Shift', 'Alt', 'Meta', 'AltGraph', 'CapsLock', 'Dead'])

type KeyPress = Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey'>

/**
 * A press of keys by name, such as `Shift X`, `Ctrl Alt ←` or `?`; `null` for a modifier alone. Ctrl stands for Cmd
 * too. Shift is not named where it is what makes the sign.
 */
export function keyName(event: KeyPress): string | null {
  if (MODIFIERS.has(event.key)) return null
  const letter = /^\p{L}$/u.test(event.key)
  const key = NAMES[event.key] ?? (letter ? event.key.toUpperCase() : event.key)
  const sign = event.key.length === 1 && !letter && event.key !== ' '
  return [
    event.ctrlKey || event.metaKey ? 'Ctrl' : '',
    event.altKey ? 'Alt' : '',
    event.shiftKey && !sign ? 'Shift' : '',
    key,
  ]
    .filter(Boolean)
    .join(' ')
}
