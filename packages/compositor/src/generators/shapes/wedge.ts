import { defineShape, polygon } from '../define'

/** A triangle. */
export const wedge = defineShape({
  id: 'wedge',
  name: 'Wedge',
  hint: 'A triangle.',
  path: (w, h) =>
    polygon(w, h, [
      [0, -0.5],
      [0.5, 0.5],
      [-0.5, 0.5],
    ]),
})
