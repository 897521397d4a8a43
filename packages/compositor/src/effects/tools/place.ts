import { percent, type EffectSettings } from '../define'
import type { EffectStage } from '../stage'

/** Settings of a point on the picture. */
export const centre = [percent('x', 'Middle across', 50), percent('y', 'Middle down', 50)]

/** That point in pixels of the stage. */
export function centreOf({ bounds }: EffectStage, settings: EffectSettings): [number, number] {
  return [bounds.x + (bounds.width * Number(settings.x)) / 100, bounds.y + (bounds.height * Number(settings.y)) / 100]
}
