import { BLEND_MODES } from '@dusk/timeline'
import type { Picture } from '../../picture'
import type { EffectStage } from '../stage'

const SCREEN = BLEND_MODES.indexOf('screen')

/** What of the picture lies above a level of 0 to 1, stretched to the whole. The caller releases it. */
export function brightParts(stage: EffectStage, level: number): Picture {
  const bright = stage.copy()
  const from = level * 255
  stage.engine.kernels.addLight(bright.address(), stage.pixels, -from, -from, -from)
  const gain = 255 / Math.max(40, 255 - from)
  stage.engine.kernels.gainColours(bright.address(), stage.pixels, gain, gain, gain)
  return bright
}

/** Lays light on the picture as a lamp would, `strength` times; above 1 again and again. */
export function shine(stage: EffectStage, light: Picture, strength: number): void {
  const { kernels } = stage.engine
  for (let left = strength; left > 0.001; left -= 1) {
    const part = stage.sheet()
    part.pixels().set(light.pixels())
    if (left < 1) kernels.thin(part.address(), stage.pixels, left)
    kernels.blendPixels(part.address(), stage.picture.address(), stage.pixels, SCREEN)
    part.release()
  }
}
