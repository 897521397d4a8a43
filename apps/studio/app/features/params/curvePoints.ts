import { curvePoints, type CurveParam, type Point } from '@dusk/timeline'

/** Where a curve lies while nothing was set: the line that changes nothing. */
export function restingPoints(over: CurveParam['over']): Point[] {
  if (over === 'tone')
    return [
      [0, 0],
      [1, 1],
    ]
  const level: Point[] = [0, 1 / 6, 1 / 3, 1 / 2, 2 / 3, 5 / 6].map((x) => [Math.round(x * 1e4) / 1e4, 0.5])
  return over === 'hue'
    ? level
    : [
        [0, 0.5],
        [1, 0.5],
      ]
}

/** Points of a curve to be dragged: those that were set, or those it rests on. */
export const pointsShown = (over: CurveParam['over'], text: string): Point[] => {
  const set = curvePoints(text)
  return set.length > 0 ? set : restingPoints(over)
}

/** How near to a neighbour a point may be put. */
const APART = 0.01

/** Points with one put elsewhere, between its neighbours. */
export function movedPoint(points: readonly Point[], index: number, to: Point): Point[] {
  const low = index > 0 ? points[index - 1]![0] + APART : 0
  const high = index < points.length - 1 ? points[index + 1]![0] - APART : 1
  const x = Math.min(Math.max(to[0], low), Math.max(low, high))
  return points.map((point, i) => (i === index ? [x, Math.min(1, Math.max(0, to[1]))] : point))
}

/** Points with one more; `null` where there are enough already, or one is too near. */
export function addedPoint(points: readonly Point[], at: Point): { points: Point[]; index: number } | null {
  if (points.length >= 16 || points.some(([x]) => Math.abs(x - at[0]) < APART)) return null
  const index = points.findIndex(([x]) => x > at[0])
  const place = index < 0 ? points.length : index
  return { points: [...points.slice(0, place), at, ...points.slice(place)], index: place }
}
