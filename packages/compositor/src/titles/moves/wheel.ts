import { defineMove } from '../define'
import { smooth, part } from '../../transitions/maths'

/** A whole turn into place. */
export const wheel = defineMove({
  id: 'wheel',
  name: 'Wheel',
  hint: 'A whole turn into place.',
  use: 'pass',
  at: (t) => ({ turn: (1 - smooth(t)) * -360, opacity: part(t, 0, 0.4) }),
})
