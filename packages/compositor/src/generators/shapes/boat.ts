import { defineShape, polygon } from '../define'

/** A folded boat. */
export const boat = defineShape({
  id: 'boat',
  name: 'Paper boat',
  hint: 'A folded boat.',
  size: [520, 420],
  path: (w, h) =>
    `${polygon(w, h, [
      [-0.5, 0],
      [-0.24, 0],
      [0, -0.5],
      [0.24, 0],
      [0.5, 0],
      [0.3, 0.4],
      [-0.3, 0.4],
    ])}`,
})
