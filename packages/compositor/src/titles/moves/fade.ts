import { defineMove } from '../define'

/** Comes out of nothing. */
export const fade = defineMove({
  id: 'fade',
  name: 'Fade',
  hint: 'Comes out of nothing.',
  use: 'pass',
  at: (t) => ({ opacity: t }),
})
