import type { FramePlan, LayerPlan } from '@dusk/timeline'
import { fileOf, layerFrame } from './drawFrame'
import type { SourceBook } from './sources'

/**
 * What a frame shows, as a text: two plans with the same one are drawn to the same picture. Times of footage are told
 * by the frame that they show, so that a film of 25 frames a second in a reel of 50 has each of them twice.
 */
export function contentOf(plan: FramePlan, book: SourceBook): string {
  return JSON.stringify(plan, (_, value: unknown) => {
    const layer = value as LayerPlan | null
    if (typeof layer !== 'object' || layer?.kind !== 'picture' || layer.beside) return value
    const { time, made, reversed, ...rest } = layer
    const whole = { ...rest, time, made, reversed }
    return { ...rest, kind: 'footage', file: fileOf(whole, book), frame: layerFrame(whole, book) }
  })
}

/** Bytes of a drawn frame that are written more than once: free again when the last that uses them is done. */
export class HeldFrame {
  private uses = 1

  constructor(
    readonly content: string,
    readonly bytes: Uint8Array,
    private readonly free: () => void,
  ) {}

  take(): this {
    this.uses++
    return this
  }

  release(): void {
    if (--this.uses === 0) this.free()
  }
}
