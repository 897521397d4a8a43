import { sinCosDegrees, type SoundFade, type SoundFadePlan } from '@dusk/timeline'
import type { SoundBlock } from './mix'

/**
 * How loud a fading sound is, as a factor.
 *
 * `even` keeps the power of two unrelated sounds constant through a crossfade (quarter sine), `straight` their
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

/** A block with its piece's fades on it. `offset`: sample of the piece that the block begins with. */
export function fadeBlock(
  { channels, samples }: SoundBlock,
  fades: readonly SoundFadePlan[],
  offset: number,
): SoundBlock {
  const out = samples.slice()
  const frames = Math.floor(samples.length / channels)
  for (const { from, length, shape, direction } of fades) {
    for (let i = 0; i < frames; i++) {
      // Half a sample in, so that a fade and its opposite meet in the middle.
      const t = (offset + i - from + 0.5) / length
      const gain = direction === 'in' ? fadeGain(shape, t) : fadeGain(shape, 1 - t)
      if (gain === 1) continue
      for (let c = 0; c < channels; c++) out[i * channels + c]! *= gain
    }
  }
  return { channels, samples: out }
}
