import { quickAmplitude, quickDecibels, smoothing } from '../../dsp/maths'

/**
 * Static curve of a compressor with a soft knee (D. Giannoulis, M. Massberg, J. D. Reiss, "Digital Dynamic Range
 * Compressor Design", JAES 60, 2012, equation 4).
 * @returns level out in decibels
 */
export function compressed(level: number, threshold: number, ratio: number, knee: number): number {
  const over = level - threshold
  if (2 * over < -knee) return level
  if (knee > 0 && 2 * Math.abs(over) <= knee) {
    const into = over + knee / 2
    return level + ((1 / ratio - 1) * into * into) / (2 * knee)
  }
  return threshold + over / ratio
}

/** Follows how far a level is to be held down, in decibels: quickly down, slowly back, alike for both sides. */
export class GainFollower {
  private held = 0

  /** @param wanted decibels, 0 or less @returns the factor to use now */
  step(wanted: number, attack: number, release: number): number {
    const by = wanted < this.held ? attack : release
    this.held = wanted + (this.held - wanted) * by
    if (this.held <= -1e-6) return quickAmplitude(this.held)
    this.held = 0
    return 1
  }

  get decibels(): number {
    return this.held
  }
}

/** Level of the louder side in decibels. */
export function louder(l: number, r: number): number {
  const a = l < 0 ? -l : l
  const b = r < 0 ? -r : r
  return quickDecibels(a > b ? a : b)
}

/** Attack and release as coefficients. */
export const timing = (attack: number, release: number) => ({
  attack: smoothing(attack),
  release: smoothing(release),
})
