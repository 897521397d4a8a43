import { z } from 'zod'

/**
 * How a value goes from one keyframe to the next. `in` starts slowly, `out` ends slowly, `both` does both, `hold` stays
 * until the next keyframe. Four numbers are the two handles of a cubic curve from (0, 0) to (1, 1), as in CSS Easing
 * Functions Level 1: x of a handle is within 0 and 1, y may overshoot.
 */
export const easeSchema = z.union([
  z.enum(['linear', 'in', 'out', 'both', 'hold']),
  z.tuple([z.number().min(0).max(1), z.number().min(-4).max(5), z.number().min(0).max(1), z.number().min(-4).max(5)]),
])

export type Ease = z.infer<typeof easeSchema>
export type Curve = [number, number, number, number]

/** Handles of the named eases. */
export const EASE_CURVES: Record<'linear' | 'in' | 'out' | 'both', Curve> = {
  linear: [0, 0, 1, 1],
  in: [0.42, 0, 1, 1],
  out: [0, 0, 0.58, 1],
  both: [0.42, 0, 0.58, 1],
}

/** The named eases as they are offered, by what they do. */
export const EASES: readonly { value: Ease & string; label: string }[] = [
  { value: 'both', label: 'Slow start and end' },
  { value: 'linear', label: 'Even' },
  { value: 'in', label: 'Slow start' },
  { value: 'out', label: 'Slow end' },
  { value: 'hold', label: 'Stay, then jump' },
]

/** The handles of an ease; those of a straight line for `hold`. */
export function easeCurve(ease: Ease): Curve {
  if (typeof ease !== 'string') return ease
  return ease === 'hold' ? EASE_CURVES.linear : EASE_CURVES[ease]
}

/**
 * Progress of a value at a part `t` of the time between two keyframes.
 * @param t 0 to 1; outside, the ends are held
 * @returns 0 at the start and 1 at the end; own curves may overshoot between
 */
export function easeAt(ease: Ease, t: number): number {
  if (t <= 0) return 0
  if (t >= 1) return 1
  if (ease === 'hold') return 0
  if (ease === 'linear') return t
  const [x1, y1, x2, y2] = easeCurve(ease)
  // x rises with s, so halving finds it; forty halvings are finer than any rounding that follows.
  let low = 0
  let high = 1
  for (let i = 0; i < 40; i++) {
    const s = (low + high) / 2
    if (bezier(x1, x2, s) < t) low = s
    else high = s
  }
  return bezier(y1, y2, (low + high) / 2)
}

/** One coordinate of the cubic from 0 to 1 with handles `a` and `b`. */
function bezier(a: number, b: number, s: number): number {
  const r = 1 - s
  return 3 * r * r * s * a + 3 * r * s * s * b + s * s * s
}
