import type { Shape } from './maps'

/** Distance from the middle, 1 in the corners. */
export const circle: Shape = (x, y, aspect) => {
  const dx = (x - 0.5) * aspect
  const dy = y - 0.5
  return (2 * Math.sqrt(dx * dx + dy * dy)) / Math.sqrt(aspect * aspect + 1)
}
