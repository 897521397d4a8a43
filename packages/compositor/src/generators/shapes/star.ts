import { defineShape, number } from '../define'
import { starPath } from './points'

/** A star of any number of points. */
export const star = defineShape({
  id: 'star',
  name: 'Star',
  hint: 'A star of any number of points.',
  params: [number('points', 'Points', 3, 40, 5), number('depth', 'Depth', 1, 95, 60, '%')],
  path: starPath,
})
