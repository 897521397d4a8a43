/** Samples in a step of looking for onsets: a millisecond. */
const STEP = 48
/** Steps that an onset rises out of, and how far it has to stand out of the loudest of them, as a ratio of energies. */
const BEFORE = 24
const STANDS_OUT = 12
/** Mean square below which nothing is an onset: −56 dB. */
const QUIET = 2.5e-6
/** The part of its steepest at which an onset begins, and samples within which that comes. */
const BEGINS = 0.1
const WITHIN = 240

/**
 * Where sounds begin out of something far quieter: clicks, steps, consonants that burst. Looked for on a fixed grid of
 * `zero`, so that pieces that overlap find the same ones.
 * @param samples interleaved stereo
 * @param zero place of the first sample
 * @returns places in samples from the first, rising
 */
export function onsets(samples: Float32Array, zero: number): number[] {
  const n = samples.length / 2
  const first = (((-zero % STEP) + STEP) % STEP) + 1
  const steps = Math.max(0, Math.floor((n - first) / STEP))
  const energy = Float64Array.from({ length: steps }, (_, k) => {
    let sum = 0
    for (let i = first + k * STEP; i < first + (k + 1) * STEP; i++) {
      // Of the difference, so that a low sound beneath does not hide a step.
      const l = samples[i * 2]! - samples[i * 2 - 2]!
      const r = samples[i * 2 + 1]! - samples[i * 2 - 1]!
      sum += l * l + r * r
    }
    return sum / (2 * STEP)
  })
  const found: number[] = []
  for (let k = 1; k < steps; k++) {
    let loudest = QUIET / STANDS_OUT
    for (let j = Math.max(0, k - BEFORE); j < k; j++) loudest = Math.max(loudest, energy[j]!)
    if (energy[k]! < loudest * STANDS_OUT) continue
    found.push(beginning(samples, first + k * STEP))
    // What follows within the same rise belongs to it.
    k += BEFORE
  }
  return found
}

/** The first sample that stands out of what was before, near the step in which a sound begins. */
function beginning(samples: Float32Array, step: number): number {
  const slope = (i: number) =>
    i < 1 || i * 2 + 1 >= samples.length
      ? 0
      : Math.max(Math.abs(samples[i * 2]! - samples[i * 2 - 2]!), Math.abs(samples[i * 2 + 1]! - samples[i * 2 - 1]!))
  let [before, steepest] = [0, 0]
  for (let i = step - BEFORE * STEP; i < step - STEP; i++) before = Math.max(before, slope(i))
  for (let i = step; i < step + WITHIN; i++) steepest = Math.max(steepest, slope(i))
  const enough = Math.max(steepest * BEGINS, before * 1.25)
  for (let i = step - STEP; i < step + WITHIN; i++) if (slope(i) >= enough) return i
  return step
}
