import { defineShape } from '../define'

/** A straight line. */
export const stroke = defineShape({
  id: 'stroke',
  name: 'Line',
  hint: 'A straight line.',
  size: [700, 2],
  open: true,
  path: (w) => `M${-w / 2} 0H${w / 2}`,
})
