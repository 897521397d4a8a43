import { defineShape, polygon } from '../define'

/** A square on its corner. */
export const lozenge = defineShape({
  id: 'lozenge',
  name: 'Lozenge',
  hint: 'A square on its corner.',
  path: (w, h) =>
    polygon(w, h, [
      [0, -0.5],
      [0.5, 0],
      [0, 0.5],
      [-0.5, 0],
    ]),
})
