import { soundKernels } from './kernels'
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

/** A row of filters over both channels, in one go: what lies between them stays in double precision. */
export class FilterRow {
  private readonly states: Float64Array

  /** @param most filters in the row, 16 at most */
  constructor(private readonly most: number) {
    this.states = new Float64Array(most * 4)
  }

  /**
   * @param coefficients b0, b1, b2, a1 and a2 of each filter; see {@link rowOf}
   * @param left a block of 128 samples at most, and `right` as many
   */
  run(coefficients: Float64Array, left: Float32Array, right: Float32Array): void {
    const count = Math.min(this.most, coefficients.length / 5)
    if (count === 0) return
    const kernels = soundKernels()
    kernels.coefficients.set(coefficients)
    kernels.states.set(this.states)
    kernels.left.set(left)
    kernels.right.set(right)
    kernels.filter(count, left.length)
    for (let i = 0; i < this.states.length; i++) this.states[i] = kernels.states[i]!
    const whole = left.length === kernels.left.length
    left.set(whole ? kernels.left : kernels.left.subarray(0, left.length))
    right.set(whole ? kernels.right : kernels.right.subarray(0, right.length))
  }
}

/** Coefficients of filters one after the other, as {@link FilterRow} takes them. */
export const rowOf = (filters: readonly Biquad[]): Float64Array =>
  Float64Array.from(filters.flatMap(({ b0, b1, b2, a1, a2 }) => [b0, b1, b2, a1, a2]))
