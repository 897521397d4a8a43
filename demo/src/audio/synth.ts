import { random } from '../random'

export const RATE = 48_000

/** Silence: stereo, interleaved. */
export function silence(seconds: number): Float32Array {
  return new Float32Array(Math.round(seconds * RATE) * 2)
}

/** Adds a mono function of time to stereo. `pan` is −1 (left) to 1 (right). */
export function add(
  out: Float32Array,
  at: number,
  seconds: number,
  voice: (t: number) => number,
  gain = 1,
  pan = 0,
): void {
  const first = Math.round(at * RATE)
  const count = Math.min(Math.round(seconds * RATE), out.length / 2 - first)
  const left = gain * Math.min(1, 1 - pan)
  const right = gain * Math.min(1, 1 + pan)
  for (let i = Math.max(0, -first); i < count; i++) {
    const value = voice(i / RATE)
    out[(first + i) * 2]! += value * left
    out[(first + i) * 2 + 1]! += value * right
  }
}

/** Noise through a one-pole low-pass and high-pass, at frequencies that may move. */
export function noise(seed: number, low: (t: number) => number, high: (t: number) => number): (t: number) => number {
  const r = random(seed)
  let a = 0
  let b = 0
  return (t) => {
    const x = r() * 2 - 1
    a += (1 - Math.exp((-2 * Math.PI * low(t)) / RATE)) * (x - a)
    b += (1 - Math.exp((-2 * Math.PI * high(t)) / RATE)) * (a - b)
    return a - b
  }
}

/** Water against stone: two bands of noise that swell slowly. */
export function lapping(seconds: number, level: number, seed = 3): Float32Array {
  const out = silence(seconds)
  for (const [pan, s] of [
    [-0.6, seed],
    [0.6, seed + 9],
  ] as const) {
    const wash = noise(
      s,
      (t) => 700 + 300 * Math.sin(t * 0.9 + s),
      () => 120,
    )
    add(out, 0, seconds, (t) => wash(t) * (0.55 + 0.45 * Math.sin(t * 1.7 + s) * Math.sin(t * 0.53 + s)), level, pan)
  }
  return out
}

/** A plucked string: partials that fade the faster the higher they are. */
export function pluck(frequency: number, bright = 1): (t: number) => number {
  return (t) => {
    let sum = 0
    for (let n = 1; n <= 7; n++)
      sum += (Math.sin(2 * Math.PI * frequency * n * t) / n ** (1.6 / bright)) * Math.exp(-t * (1.6 + 1.5 * n))
    return sum * Math.min(1, t * 400)
  }
}

/** Mixes `b` into `a` from `at` seconds on. */
export function over(a: Float32Array, b: Float32Array, at = 0, gain = 1): Float32Array {
  const first = Math.round(at * RATE) * 2
  for (let i = 0; i < b.length && first + i < a.length; i++) if (first + i >= 0) a[first + i]! += b[i]! * gain
  return a
}

/** A hand clap: three bursts of noise within 20 ms. */
export function clap(): Float32Array {
  const out = silence(0.3)
  for (const [i, at] of [0, 0.009, 0.018].entries()) {
    const hiss = noise(
      80 + i,
      () => 5200,
      () => 700,
    )
    add(out, at, 0.2, (t) => hiss(t) * Math.exp(-t * (i === 2 ? 38 : 140)), 1.6)
  }
  return out
}
