import type { FramePlan } from '@dusk/timeline'
import { layerFrame } from './drawFrame'
import type { SourceBook } from './sources'

/** Frames of a source, equally far apart, that output frames show with nothing done to them. */
export interface TranscodedFrom {
  assetId: string
  /** Number of the first one. */
  frame: number
  /** Frames of the source from each to the next, from 1. */
  step: number
  /** The first one stands by itself: what is before it was copied as it is coded. */
  key?: boolean
}

/** Steps beyond which reading away what lies between takes longer than seeking. */
const MOST_STEP = 24

/** The frame of a moving source that an output frame is, where neither its size nor anything else is changed. */
export function untouchedFrame(plan: FramePlan, book: SourceBook): Pick<TranscodedFrom, 'assetId' | 'frame'> | null {
  const [layer] = plan.layers
  if (!plan.passThrough || layer?.kind !== 'picture' || layer.made || layer.beside) return null
  if (book.get(layer.assetId)!.metadata.kind !== 'video') return null
  return { assetId: layer.assetId, frame: layerFrame(layer, book) }
}

/**
 * The frames that a chunk can be encoded from as they are decoded, without coming here in between.
 * @param plans of all its frames, in order
 * @returns `undefined` where some are drawn, shown twice, or not equally far apart
 */
export function transcodedFrom(plans: readonly FramePlan[], book: SourceBook): TranscodedFrom | undefined {
  const frames = plans.map((plan) => untouchedFrame(plan, book))
  const [first, second] = frames
  if (!first) return undefined
  const step = second ? second.frame - first.frame : 1
  if (step < 1 || step > MOST_STEP) return undefined
  const even = frames.every((one, n) => one?.assetId === first.assetId && one.frame === first.frame + n * step)
  return even ? { ...first, step } : undefined
}
