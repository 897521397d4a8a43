import { amplitude, sinCosTurns } from './maths'

const RATE = 48_000

/** Second-order filter, coefficients normalised to a0 = 1. */
export interface Biquad {
  b0: number
  b1: number
  b2: number
  a1: number
  a2: number
}

export type BiquadKind = 'peak' | 'lowShelf' | 'highShelf' | 'lowPass' | 'highPass' | 'bandPass' | 'notch'

/**
 * A filter by R. Bristow-Johnson's "Cookbook formulae for audio equalizer biquad filter coefficients" (W3C note), at
 * 48 kHz.
 * @param hz 10 … 23,500
 * @param q width of the slope or the band, 0.05 … 40
 * @param db boost or cut of shelves and peaks
 */
export function biquad(kind: BiquadKind, hz: number, q: number, db = 0): Biquad {
  const [sin, cos] = sinCosTurns(Math.min(Math.max(hz, 10), 23_500) / RATE)
  const alpha = sin / (2 * Math.min(Math.max(q, 0.05), 40))
  const A = amplitude(db / 2)
  const root = 2 * Math.sqrt(A) * alpha
  const norm = (b0: number, b1: number, b2: number, a0: number, a1: number, a2: number): Biquad => ({
    b0: b0 / a0,
    b1: b1 / a0,
    b2: b2 / a0,
    a1: a1 / a0,
    a2: a2 / a0,
  })
  switch (kind) {
    case 'peak':
      return norm(1 + alpha * A, -2 * cos, 1 - alpha * A, 1 + alpha / A, -2 * cos, 1 - alpha / A)
    case 'lowShelf':
      return norm(
        A * (A + 1 - (A - 1) * cos + root),
        2 * A * (A - 1 - (A + 1) * cos),
        A * (A + 1 - (A - 1) * cos - root),
        A + 1 + (A - 1) * cos + root,
        -2 * (A - 1 + (A + 1) * cos),
        A + 1 + (A - 1) * cos - root,
      )
    case 'highShelf':
      return norm(
        A * (A + 1 + (A - 1) * cos + root),
        -2 * A * (A - 1 + (A + 1) * cos),
        A * (A + 1 + (A - 1) * cos - root),
        A + 1 - (A - 1) * cos + root,
        2 * (A - 1 - (A + 1) * cos),
        A + 1 - (A - 1) * cos - root,
      )
    case 'lowPass':
      return norm((1 - cos) / 2, 1 - cos, (1 - cos) / 2, 1 + alpha, -2 * cos, 1 - alpha)
    case 'highPass':
      return norm((1 + cos) / 2, -(1 + cos), (1 + cos) / 2, 1 + alpha, -2 * cos, 1 - alpha)
    case 'bandPass':
      return norm(alpha, 0, -alpha, 1 + alpha, -2 * cos, 1 - alpha)
    case 'notch':
      return norm(1, -2 * cos, 1, 1 + alpha, -2 * cos, 1 - alpha)
  }
}

/** How loud a filter lets a frequency through, in decibels. */
export function responseAt({ b0, b1, b2, a1, a2 }: Biquad, hz: number): number {
  const [s1, c1] = sinCosTurns(hz / RATE)
  const [s2, c2] = sinCosTurns((2 * hz) / RATE)
  const up = (b0 + b1 * c1 + b2 * c2) ** 2 + (b1 * s1 + b2 * s2) ** 2
  const down = (1 + a1 * c1 + a2 * c2) ** 2 + (a1 * s1 + a2 * s2) ** 2
  return 10 * Math.log10(Math.max(up, 1e-30) / Math.max(down, 1e-30))
}

/** Runs a filter over one channel (transposed direct form 2). */
export class FilterState {
  private z1 = 0
  private z2 = 0

  /** One sample. */
  step({ b0, b1, b2, a1, a2 }: Biquad, x: number): number {
    const y = b0 * x + this.z1
    this.z1 = b1 * x - a1 * y + this.z2
    this.z2 = b2 * x - a2 * y
    return y
  }
}

/** Runs a filter over both channels (transposed direct form 2). */
export class StereoFilter {
  private l1 = 0
  private l2 = 0
  private r1 = 0
  private r2 = 0

  /** Both sides in one go: while the one waits for what it has just worked out, the other goes on. */
  run({ b0, b1, b2, a1, a2 }: Biquad, left: Float32Array, right: Float32Array): void {
    let { l1, l2, r1, r2 } = this
    for (let i = 0; i < left.length; i++) {
      const l = left[i]!
      const r = right[i]!
      const yl = b0 * l + l1
      const yr = b0 * r + r1
      l1 = b1 * l - a1 * yl + l2
      r1 = b1 * r - a1 * yr + r2
      l2 = b2 * l - a2 * yl
      r2 = b2 * r - a2 * yr
      left[i] = yl
      right[i] = yr
    }
    // Below any hearing, but slow to reckon with.
    const still = (z: number) => (z < 1e-20 && z > -1e-20 ? 0 : z)
    this.l1 = still(l1)
    this.l2 = still(l2)
    this.r1 = still(r1)
    this.r2 = still(r2)
  }
}
