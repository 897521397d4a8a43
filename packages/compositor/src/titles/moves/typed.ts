import { defineMove } from '../define'

/** Appears at once, one after the other. */
export const typed = defineMove({
  id: 'typed',
  name: 'Typed',
  hint: 'Appears at once, one after the other.',
  use: 'pass',
  at: (t) => ({ opacity: t > 0 ? 1 : 0 }),
})
