import { defineShape, polygon } from '../define'

/** A figure of six sides. */
export const cell = defineShape({
  id: 'cell',
  name: 'Cell',
  hint: 'A figure of six sides.',
  path: (w, h) =>
    polygon(w, h, [
      [-0.25, -0.433],
      [0.25, -0.433],
      [0.5, 0],
      [0.25, 0.433],
      [-0.25, 0.433],
      [-0.5, 0],
    ]),
})
