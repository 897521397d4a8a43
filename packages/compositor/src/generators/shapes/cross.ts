import { defineShape } from '../define'

/** Not this. */
export const cross = defineShape({
  id: 'cross',
  name: 'Cross',
  hint: 'Not this.',
  size: [300, 300],
  open: true,
  path: (w, h) => `M${-w / 2} ${-h / 2}L${w / 2} ${h / 2}M${w / 2} ${-h / 2}L${-w / 2} ${h / 2}`,
})
