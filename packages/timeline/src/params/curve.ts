import type { Point } from './animated'

/** Points of a curve as a setting holds them, `x,y x,y …`, in order of x. Odd input gives no points. */
export function curvePoints(text: string): Point[] {
  const points = text.split(' ').flatMap((pair) => {
    const [x, y] = pair.split(',').map(Number)
    return pair && Number.isFinite(x) && Number.isFinite(y) ? [[x!, y!] as const] : []
  })
  return points.sort((a, b) => a[0] - b[0]).filter((point, i, all) => i === 0 || point[0] - all[i - 1]![0] > 1e-4)
}

/** Points as a setting holds them. */
export const curveText = (points: readonly Point[]): string =>
  points.map(([x, y]) => `${Number(x.toFixed(4))},${Number(y.toFixed(4))}`).join(' ')

/**
 * A smooth curve through points that never goes beyond two neighbours between them: monotone cubic interpolation
 * (F. N. Fritsch, R. E. Carlson, SIAM J. Numerical Analysis 17, 1980). Beyond the ends it stays.
 * @param round joins the ends: what lies at 0 lies at 1
 */
export function curveThrough(points: readonly Point[], round = false): (x: number) => number {
  if (points.length === 0) return (x) => x
  if (points.length === 1) return () => points[0]![1]
  const all = round ? wrapped(points) : points
  const n = all.length
  const slopes = all.slice(1).map(([x, y], i) => (y - all[i]![1]) / (x - all[i]![0]))
  const tangents = all.map((_, i) => {
    if (i === 0) return slopes[0]!
    if (i === n - 1) return slopes[n - 2]!
    const [a, b] = [slopes[i - 1]!, slopes[i]!]
    if (a * b <= 0) return 0
    const [left, right] = [all[i]![0] - all[i - 1]![0], all[i + 1]![0] - all[i]![0]]
    // The harmonic mean, weighted by how far the neighbours are, keeps the curve between them.
    return (3 * (left + right)) / ((2 * right + left) / a + (right + 2 * left) / b)
  })
  return (x) => {
    if (x <= all[0]![0]) return all[0]![1]
    if (x >= all[n - 1]![0]) return all[n - 1]![1]
    let i = 0
    while (all[i + 1]![0] < x) i++
    const [[x0, y0], [x1, y1]] = [all[i]!, all[i + 1]!]
    const h = x1 - x0
    const t = (x - x0) / h
    const [t2, t3] = [t * t, t * t * t]
    return (
      y0 * (2 * t3 - 3 * t2 + 1) +
      h * tangents[i]! * (t3 - 2 * t2 + t) +
      y1 * (3 * t2 - 2 * t3) +
      h * tangents[i + 1]! * (t3 - t2)
    )
  }
}

/** Points of a ring: the last ones again before the first, the first ones again after the last. */
function wrapped(points: readonly Point[]): Point[] {
  const shift = (by: number) => points.map(([x, y]): Point => [x + by, y])
  return [...shift(-1), ...points, ...shift(1)].filter(([x], i, all) => i === 0 || x - all[i - 1]![0] > 1e-4)
}
