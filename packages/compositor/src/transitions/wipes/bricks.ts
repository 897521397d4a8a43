import { shapeWipe, number } from '../define'

/** Bricks are laid row by row. */
export const bricks = shapeWipe({
  id: 'bricks',
  name: 'Bricks',
  hint: 'Bricks are laid row by row.',
  params: [number('count', 'Across', 3, 40, 9)],
  shape: ({ count }) => {
    const n = Number(count)
    return (x, y, a) => {
      const row = Math.floor(((1 - y) * n * 2) / a)
      const rows = Math.ceil((n * 2) / a)
      return (row + (Math.floor(x * n + (row % 2) / 2) + 1) / (n + 1)) / (rows + 1)
    }
  },
})
