import { covers, type FramePlan, type LayerPlan, type OutputSize } from '@dusk/timeline'
import { keepsSolid } from './effects/apply'

/** Whether a layer is a picture that hides all that is behind it, whatever is done to its colours. */
export function coversGraded(layer: LayerPlan, size: OutputSize): boolean {
  if (layer.kind !== 'picture' || (layer.effects && !keepsSolid(layer.effects))) return false
  return covers({ ...layer, effects: undefined }, size)
}

/** A plan without the layers that a picture with changed colours hides, so that their pictures are not fetched. */
export function withoutHidden(plan: FramePlan): FramePlan {
  for (let i = plan.layers.length - 1; i > 0; i--)
    if (coversGraded(plan.layers[i]!, plan)) return { ...plan, layers: plan.layers.slice(i) }
  return plan
}
