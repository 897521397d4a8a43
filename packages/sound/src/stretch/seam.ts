import { resampleAt } from './resample'

/** Samples within which two portions are looked for to agree: a period of 60 Hz. */
const REACH = 800
/** Most that a portion runs faster or slower to make up for where it was brought to: 14 cents. */
const DRIFT = 1 / 120
/** Likeness below which two portions have nothing to agree in. */
const LIKE = 0.3

/** How a portion follows the one before it. */
export interface Seam {
  /** Samples by which it is taken later at the seam, so that its waves go on from those before. */
  lag: number
  /** How alike both are then: 1 the same, 0 nothing in common. */
  likeness: number
}

/** Normalised cross-correlation of `a` with what lies in `b` from sample `lag` on; interleaved stereo. */
function likenessAt(a: Float32Array, b: Float32Array, lag: number): number {
  let [both, own, other] = [0, 1e-12, 1e-12]
  for (let i = 0, k = lag * 2; i < a.length && k < b.length; i++, k++) {
    both += a[i]! * b[k]!
    own += a[i]! * a[i]!
    other += b[k]! * b[k]!
  }
  return both / Math.sqrt(own * other)
}

/**
 * Where a portion has to begin for its waves to go on from those of the one before.
 * @param tail what the one before goes on with at the seam, interleaved stereo
 * @param portion interleaved stereo
 * @param steady samples of the portion that may be moved a little; what comes after them keeps its place
 */
export function findSeam(tail: Float32Array, portion: Float32Array, steady: number): Seam {
  const most = Math.min(REACH, Math.floor(steady * DRIFT))
  let best: Seam = { lag: 0, likeness: likenessAt(tail, portion, 0) }
  if (best.likeness > 0.995) return best
  for (let lag = 1; lag <= most; lag++) {
    const likeness = likenessAt(tail, portion, lag)
    // A little better is not worth going farther for.
    if (likeness > best.likeness + 0.004) best = { lag, likeness }
  }
  return best.likeness < LIKE ? { lag: 0, likeness: Math.max(0, best.likeness) } : best
}

/**
 * A portion that begins `lag` samples later in itself, and comes back to its own time by the end of its steady part.
 * @param portion interleaved stereo
 */
export function drifted(portion: Float32Array, lag: number, steady: number): Float32Array {
  if (lag === 0) return portion
  const out = portion.slice()
  for (let i = 0; i < steady; i++) {
    const [left, right] = resampleAt(portion, i + lag * (1 - i / steady), 1)
    out[i * 2] = left
    out[i * 2 + 1] = right
  }
  return out
}

/**
 * Weights of what goes and what comes at a point of a seam, so that it is as loud throughout.
 * @param t from 0 at its beginning to 1
 */
export function seamWeights(t: number, likeness: number): [number, number] {
  const rest = 1 - t
  const scale = 1 / Math.sqrt(rest * rest + t * t + 2 * likeness * rest * t)
  return [rest * scale, t * scale]
}
