import { defineShape } from '../define'

/** Done. */
export const tick = defineShape({
  id: 'tick',
  name: 'Tick',
  hint: 'Done.',
  size: [360, 300],
  open: true,
  path: (w, h) => `M${-w / 2} ${h * 0.05}L${-w * 0.15} ${h * 0.4}L${w / 2} ${-h * 0.4}`,
})
