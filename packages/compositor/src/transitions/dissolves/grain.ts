import { shapeWipe, seed } from '../define'
import { hash } from '../maths'

/** Single points change one by one. */
export const grain = shapeWipe({
  id: 'grain',
  name: 'Grain',
  family: 'dissolves',
  hint: 'Single points change one by one.',
  params: [seed()],
  soft: 6,
  shape: ({ seed }) => {
    const n = Number(seed)
    return (x, y, a) => hash(Math.floor(x * 480 * a), Math.floor(y * 480), n)
  },
})
