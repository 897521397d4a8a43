import type { SoundPiece } from '@dusk/timeline'
import type { Bus } from './bus'

/** Told what passes through a mixer, block by block. */
export interface MeterTap {
  track(id: string, at: number, bus: Bus): void
  reel(at: number, bus: Bus): void
  clip(piece: SoundPiece, at: number, reductions: Iterable<[string, number]>): void
}
