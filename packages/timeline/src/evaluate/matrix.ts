/**
 * A 2-D affine map as six numbers `[a, b, c, d, e, f]`: x' = a·x + c·y + e, y' = b·x + d·y + f. Pixel coordinates put
 * the centre of the first pixel at (0.5, 0.5).
 */
export type Matrix = readonly [number, number, number, number, number, number]

export const IDENTITY: Matrix = [1, 0, 0, 1, 0, 0]

const GRAIN = 1 << 20

/** Each entry rounded to 2⁻²⁰, so that plans do not depend on an engine's arithmetic. Never yields −0. */
export function roundMatrix(m: Matrix): Matrix {
  return m.map((value) => Math.round(value * GRAIN) / GRAIN + 0) as unknown as Matrix
}

/** The map that applies `second` after `first`. */
export function multiply(second: Matrix, first: Matrix): Matrix {
  const [a, b, c, d, e, f] = second
  const [a2, b2, c2, d2, e2, f2] = first
  return [a * a2 + c * b2, b * a2 + d * b2, a * c2 + c * d2, b * c2 + d * d2, a * e2 + c * f2 + e, b * e2 + d * f2 + f]
}

/** The inverse, or `null` when the map squeezes the plane flat. */
export function invert(m: Matrix): Matrix | null {
  const [a, b, c, d, e, f] = m
  const det = a * d - b * c
  if (Math.abs(det) < 1e-12) return null
  return [d / det, -b / det, -c / det, a / det, (c * f - d * e) / det, (b * e - a * f) / det]
}

export function translation(x: number, y: number): Matrix {
  return [1, 0, 0, 1, x, y]
}

export function scaling(x: number, y: number): Matrix {
  return [x, 0, 0, y, 0, 0]
}

/** Turn clockwise on screen by `degrees`, exact at multiples of 90. */
export function rotation(degrees: number): Matrix {
  const [sin, cos] = sinCosDegrees(degrees)
  return [cos, sin, -sin, cos, 0, 0]
}

/**
 * Sine and cosine of an angle in degrees by a fixed polynomial (Taylor to x¹³ on 0–45°, error < 1e-13): engines are
 * free to differ in `Math.sin`, and a frame must not.
 */
export function sinCosDegrees(degrees: number): [number, number] {
  let rotation = degrees % 360
  if (rotation < 0) rotation += 360
  const quarter = Math.floor(rotation / 90)
  const rest = rotation - quarter * 90
  const flip = rest > 45
  const x = ((flip ? 90 - rest : rest) * 3.141592653589793) / 180
  const x2 = x * x
  let s = x * (1 - (x2 / 6) * (1 - (x2 / 20) * (1 - (x2 / 42) * (1 - (x2 / 72) * (1 - (x2 / 110) * (1 - x2 / 156))))))
  let c = 1 - (x2 / 2) * (1 - (x2 / 12) * (1 - (x2 / 30) * (1 - (x2 / 56) * (1 - (x2 / 90) * (1 - x2 / 132)))))
  if (flip) [s, c] = [c, s]
  if (quarter === 0) return [s, c]
  if (quarter === 1) return [c, -s]
  if (quarter === 2) return [-s, -c]
  return [-c, s]
}
