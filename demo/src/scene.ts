import type { Rate } from '@dusk/timeline'
import type { Context } from './draw'

/** A clip of the demo: how it is drawn at a time, and what is heard. */
export interface Scene {
  name: string
  width: number
  height: number
  rate: Rate
  seconds: number
  draw(c: Context, t: number): void
  /** Stereo samples at 48 kHz, interleaved; `null` for a silent camera. */
  sound(): Float32Array | null
}

export const FPS = {
  film: { num: 24000, den: 1001 },
  f25: { num: 25, den: 1 },
  f30: { num: 30, den: 1 },
} as const
