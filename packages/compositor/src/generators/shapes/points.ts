import { sinCosDegrees } from '@dusk/timeline'
import { polygon, type Settings } from '../define'

/** A star with `points` points, cut in by `depth` percent. */
export function starPath(w: number, h: number, { points, depth }: Settings): string {
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
}
