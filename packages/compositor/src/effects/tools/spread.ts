import type { Picture } from '../../picture'
import type { EffectStage } from '../stage'

/** The mean about each pixel, and how far pixels are from it on average. The caller releases both. */
export function meanAndSpread(stage: EffectStage, sigma: number): { mean: Picture; spread: Picture } {
  const mean = stage.copy()
  stage.blur(mean, sigma, sigma)
  const spread = stage.sheet()
  stage.engine.kernels.deviation(stage.picture.address(), mean.address(), spread.address(), stage.pixels)
  stage.blur(spread, sigma, sigma)
  return { mean, spread }
}
