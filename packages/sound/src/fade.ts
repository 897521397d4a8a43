import { sinCosDegrees, type SoundFade } from '@dusk/timeline'

/**
 * How loud a fading sound is, as a factor.
 *
 * `equalPower` keeps the power of two unrelated sounds constant through a crossfade (quarter sine), `linear` their
 * amplitude; `slow` comes late and goes early, `fast` comes early and goes late.
 * @param t 0 where a sound that comes begins, 1 where it is all there; a sound that goes runs the other way
 */
export function fadeGain(shape: SoundFade, t: number): number {
  if (t <= 0) return 0
  if (t >= 1) return 1
  switch (shape) {
    case 'equalPower':
      return sinCosDegrees(90 * t)[0]
    case 'linear':
      return t
    case 'slow':
      return t * t
    case 'fast':
      return 1 - (1 - t) * (1 - t)
  }
}
