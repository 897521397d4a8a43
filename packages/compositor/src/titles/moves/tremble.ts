import { defineMove } from '../define'
import { hash } from '../../transitions/maths'

/** Small quick jumps. */
export const tremble = defineMove({
  id: 'tremble',
  name: 'Tremble',
  hint: 'Small quick jumps.',
  use: 'stay',
  at: (t, { index }) => ({
    x: (hash(index, Math.floor(t * 12), 1) - 0.5) * 0.06,
    y: (hash(index, Math.floor(t * 12), 2) - 0.5) * 0.06,
  }),
})
