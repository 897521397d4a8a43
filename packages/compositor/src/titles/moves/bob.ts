import { defineMove } from '../define'
import { sinTurn } from '../../transitions/maths'

/** Up and down like a boat. */
export const bob = defineMove({
  id: 'bob',
  name: 'Bob',
  hint: 'Up and down like a boat.',
  use: 'stay',
  at: (t) => ({ y: 0.08 * sinTurn(t), turn: 1.5 * sinTurn(t + 0.25) }),
})
