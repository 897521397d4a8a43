import { sinCosDegrees } from '@dusk/timeline'
import { defineShape, number, polygon } from '../define'

/** A star of any number of points. */
export const star = defineShape({
  id: 'star',
  name: 'Star',
  hint: 'A star of any number of points.',
  params: [number('points', 'Points', 3, 40, 5), number('depth', 'Depth', 1, 95, 60, '%')],
  path: (w, h, { points, depth }) => {
    const n = Math.round(Number(points))
    const inner = 0.5 * (1 - Number(depth) / 100)
    return polygon(
      w,
      h,
      Array.from({ length: n * 2 }, (_, i) => {
        const [sin, cos] = sinCosDegrees((i / (n * 2)) * 360)
        const r = i % 2 ? inner : 0.5
        return [sin * r, -cos * r] as const
      }),
    )
  },
})
