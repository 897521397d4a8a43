import { sinCosDegrees } from '@dusk/timeline'
import { defineShape, number, polygon } from '../define'

/** Many short points, like a seal. */
export const burst = defineShape({
  id: 'burst',
  name: 'Burst',
  hint: 'Many short points, like a seal.',
  params: [number('points', 'Points', 3, 60, 18), number('depth', 'Depth', 1, 95, 18, '%')],
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
