import { defineShape } from '../define'

/** A line with an open head. */
export const thinArrow = defineShape({
  id: 'thinArrow',
  name: 'Thin arrow',
  hint: 'A line with an open head.',
  size: [520, 160],
  open: true,
  path: (w, h) => `M${-w / 2} 0H${w / 2}M${w / 2 - h / 2} ${-h / 2}L${w / 2} 0L${w / 2 - h / 2} ${h / 2}`,
})
