/**
 * The angle of a direction in degrees, by a polynomial for the arc tangent (J. F. Hart and others, "Computer
 * approximations", 1968, index 4960 shortened): engines are free to differ in their own. Error below 0.01°.
 */
export function atan2Degrees(y: number, x: number): number {
  if (x === 0 && y === 0) return 0
  const [ax, ay] = [Math.abs(x), Math.abs(y)]
  const t = Math.min(ax, ay) / Math.max(ax, ay)
  const s = t * t
  const small = t * (0.999866 + s * (-0.3302995 + s * (0.180141 + s * (-0.085133 + s * 0.0208351)))) * 57.29577951308232
  const first = ay > ax ? 90 - small : small
  const half = x < 0 ? 180 - first : first
  return y < 0 ? -half : half
}
