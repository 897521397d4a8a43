import { shapeWipe } from '../define'

/** Four corners give way to a growing cross. */
export const cross = shapeWipe({
  id: 'cross',
  name: 'Cross',
  hint: 'Four corners give way to a growing cross.',
  shape: () => (x, y) => 2 * Math.min(Math.abs(x - 0.5), Math.abs(y - 0.5)),
})
