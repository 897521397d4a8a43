import { defineMove } from '../define'
import { smooth } from '../../transitions/maths'

/** Turns into place. */
export const twist = defineMove({
  id: 'twist',
  name: 'Twist',
  hint: 'Turns into place.',
  use: 'pass',
  at: (t) => ({ turn: (1 - smooth(t)) * -90, size: 0.5 + 0.5 * t, opacity: t }),
})
