import { defineShape } from '../define'

/** A line with a head at each end. */
export const twoWayArrow = defineShape({
  id: 'twoWayArrow',
  name: 'Two-way arrow',
  hint: 'A line with a head at each end.',
  size: [520, 140],
  open: true,
  path: (w, h) =>
    `M${-w / 2} 0H${w / 2}M${w / 2 - h / 2} ${-h / 2}L${w / 2} 0L${w / 2 - h / 2} ${h / 2}M${-w / 2 + h / 2} ` +
    `${-h / 2}L${-w / 2} 0L${-w / 2 + h / 2} ${h / 2}`,
})
