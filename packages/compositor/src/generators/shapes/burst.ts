import { defineShape, number } from '../define'
import { starPath } from './points'

/** Many short points, like a seal. */
export const burst = defineShape({
  id: 'burst',
  name: 'Burst',
  hint: 'Many short points, like a seal.',
  params: [number('points', 'Points', 3, 60, 18), number('depth', 'Depth', 1, 95, 18, '%')],
  path: starPath,
})
