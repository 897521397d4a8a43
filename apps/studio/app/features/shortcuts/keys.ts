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

type KeyPress = Pick<KeyboardEvent, 'key' | 'code' | 'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey'> & {
  /** Whether AltGr is held: it makes a sign, and systems that report it as Ctrl and Alt do not mean those. */
  altGraph?: boolean
}

/** Signs of keys by their place on an English keyboard, where the browser does not tell the layout. */
const PLAIN_SIGNS: Record<string, string> = {
  Comma: ',',
  Period: '.',
  Slash: '/',
  Semicolon: ';',
  Quote: "'",
  BracketLeft: '[',
  BracketRight: ']',
  Backslash: '\\',
  Backquote: '`',
  Minus: '-',
  Equal: '=',
}
const DIGIT = /^Digit(\d)$/

/** What keys type without Shift, by their place, once the browser has told the layout. */
let layout: ReadonlyMap<string, string> | null = null

/** Asks the browser which keyboard layout is in use. */
export async function learnLayout(): Promise<void> {
  const { keyboard } = navigator as { keyboard?: { getLayoutMap(): Promise<ReadonlyMap<string, string>> } }
  layout = (await keyboard?.getLayoutMap().catch(() => null)) ?? null
}

/** What a key types without Shift. */
function plainSign(code: string): string | null {
  return layout?.get(code) ?? PLAIN_SIGNS[code] ?? DIGIT.exec(code)?.[1] ?? null
}

/**
 * Names of a press of keys, the likeliest first: such as `Shift X`, `Ctrl Alt ←` or `?`; none for a modifier alone.
 * Ctrl stands for Cmd too. A sign is named as it is typed, and with Shift also by what its key types alone, so that
 * `Shift ,` is found on every layout whatever sign it makes there.
 */
export function keyNames(event: KeyPress): string[] {
  if (MODIFIERS.has(event.key)) return []
  const letter = /^\p{L}$/u.test(event.key)
  const sign = event.key.length === 1 && !letter && event.key !== ' '
  const key = NAMES[event.key] ?? (letter ? event.key.toUpperCase() : event.key)
  const held = [
    (event.ctrlKey || event.metaKey) && !event.altGraph ? 'Ctrl' : '',
    event.altKey && !event.altGraph ? 'Alt' : '',
  ]
  const name = (shift: boolean, last: string) => [...held, shift ? 'Shift' : '', last].filter(Boolean).join(' ')
  const names = [name(event.shiftKey && !sign, key)]
  const plain = sign && event.shiftKey ? plainSign(event.code) : null
  if (plain && plain !== event.key) names.push(name(true, plain))
  return names
}

/** The name a press of keys is bound under; `null` for a modifier alone. */
export function keyName(event: KeyPress): string | null {
  return keyNames(event)[0] ?? null
}
