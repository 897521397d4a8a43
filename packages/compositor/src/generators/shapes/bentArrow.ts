import { defineShape } from '../define'

/** A line that swings round to its head. */
export const bentArrow = defineShape({
  id: 'bentArrow',
  name: 'Bent arrow',
  hint: 'A line that swings round to its head.',
  size: [520, 320],
  open: true,
  path: (w, h) =>
    `M${-w / 2} ${h / 2}Q${-w * 0.1} ${-h * 0.62} ${w / 2} ${-h * 0.2}M${w * 0.3} ${-h * 0.46}L${w / 2} ` +
    `${-h * 0.2}L${w * 0.24} ${-h * 0.02}`,
})
