import { sinCosTurns } from './maths'

/** Fast Fourier transform of a fixed size (radix 2, in place), alike on every machine. */
export class Fft {
  private readonly cos: Float64Array
  private readonly sin: Float64Array
  private readonly order: Uint32Array

  /** @param size a power of two */
  constructor(readonly size: number) {
    this.cos = new Float64Array(size / 2)
    this.sin = new Float64Array(size / 2)
    for (let i = 0; i < size / 2; i++) [this.sin[i], this.cos[i]] = sinCosTurns(i / size) as [number, number]
    this.order = new Uint32Array(size)
    let bits = 0
    while (1 << bits < size) bits++
    for (let i = 0; i < size; i++) {
      let r = 0
      for (let b = 0; b < bits; b++) if (i & (1 << b)) r |= 1 << (bits - 1 - b)
      this.order[i] = r
    }
  }

  /** @param inverse from frequencies back; the result is divided by the size */
  run(re: Float64Array, im: Float64Array, inverse = false): void {
    const { size, order, cos, sin } = this
    for (let i = 0; i < size; i++) {
      const j = order[i]!
      if (j > i) {
        ;[re[i], re[j]] = [re[j]!, re[i]!]
        ;[im[i], im[j]] = [im[j]!, im[i]!]
      }
    }
    for (let half = 1; half < size; half *= 2) {
      const step = size / (half * 2)
      for (let start = 0; start < size; start += half * 2)
        for (let k = 0; k < half; k++) {
          const c = cos[k * step]!
          const s = inverse ? sin[k * step]! : -sin[k * step]!
          const [a, b] = [start + k, start + k + half]
          const x = re[b]! * c - im[b]! * s
          const y = re[b]! * s + im[b]! * c
          re[b] = re[a]! - x
          im[b] = im[a]! - y
          re[a]! += x
          im[a]! += y
        }
    }
    if (inverse)
      for (let i = 0; i < size; i++) {
        re[i]! /= size
        im[i]! /= size
      }
  }
}
