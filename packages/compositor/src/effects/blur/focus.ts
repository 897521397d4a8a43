import type { EffectStage } from '../stage'

/** Pixels around something that a blur of this standard deviation reaches. */
export const reachOf = (sigma: number) => Math.ceil(sigma * 3) + 1

/**
 * Blurs what is farther than `sharp` pixels from something, all of it `soft` pixels farther on.
 * @param measure writes distances in pixels, a float a pixel
 */
export function softBeyond(
  stage: EffectStage,
  sigma: number,
  sharp: number,
  soft: number,
  measure: (distance: number) => void,
): void {
  const { engine, picture, pixels } = stage
  const { kernels, heap } = engine
  const distance = heap.allocate(pixels * 4)
  measure(distance)
  const plane = heap.allocate(pixels)
  // Covered is what stays sharp.
  kernels.cover(distance, plane, pixels, -sharp, sharp + soft, 1, 0, 0)
  heap.release(distance)
  const softened = stage.copy()
  stage.blur(softened, sigma, sigma)
  kernels.mixByCover(softened.address(), picture.address(), picture.address(), plane, pixels, 1)
  heap.release(plane)
  softened.release()
}
