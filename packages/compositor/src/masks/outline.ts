import type { MaskPoint } from '@dusk/timeline'

/** Most straight pieces a bent side is drawn in. */
const MOST = 24

/**
 * An outline as straight pieces: each side is a cubic Bézier curve from a point along its second handle to the next
 * point, which it reaches along that one's first.
 * @param place from parts of the picture about the shape's position to pixels
 */
export function outlineOf(
  points: readonly MaskPoint[],
  place: (u: number, v: number) => [number, number],
): [number, number][] {
  return points.flatMap(([x, y, , , outX, outY], i) => {
    const [nextX, nextY, inX, inY] = points[(i + 1) % points.length]!
    const from = place(x, y)
    if (outX === 0 && outY === 0 && inX === 0 && inY === 0) return [from]
    const [a, b, to] = [place(x + outX, y + outY), place(nextX + inX, nextY + inY), place(nextX, nextY)]
    const far = (p: [number, number], q: [number, number]) =>
      Math.sqrt((p[0] - q[0]) * (p[0] - q[0]) + (p[1] - q[1]) * (p[1] - q[1]))
    const steps = Math.min(MOST, Math.max(3, Math.ceil((far(from, a) + far(a, b) + far(b, to)) / 12)))
    return Array.from({ length: steps }, (_, n): [number, number] => {
      const t = n / steps
      const r = 1 - t
      const along = (k: 0 | 1) => r * r * r * from[k] + 3 * r * r * t * a[k] + 3 * r * t * t * b[k] + t * t * t * to[k]
      return [along(0), along(1)]
    })
  })
}
