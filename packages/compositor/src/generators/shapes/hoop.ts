import { defineShape } from '../define'

/** A ring. */
export const hoop = defineShape({
  id: 'hoop',
  name: 'Hoop',
  hint: 'A ring.',
  open: true,
  path: (w, h) => `M${-w / 2} 0A${w / 2} ${h / 2} 0 1 1 ${w / 2} 0A${w / 2} ${h / 2} 0 1 1 ${-w / 2} 0Z`,
})
