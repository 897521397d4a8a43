import { IDENTITY } from './matrix'
import type { EffectsPlan, FramePlan, LayerPlan, OutputSize, ReelLayer } from './plan'

const blendsOf = (layer: LayerPlan) =>
  layer.kind === 'transition' ? [layer.from, layer.to].flatMap((side) => (side ? [side.blend] : [])) : [layer.blend]

/** A layer that is laid down without mixing in any other way. */
function plainly<L extends LayerPlan>(layer: L): L {
  if (layer.kind === 'transition') {
    const side = <S extends object>(of: S | null) => (of ? { ...of, blend: undefined } : null)
    return { ...layer, from: side(layer.from), to: side(layer.to) }
  }
  return { ...layer, blend: undefined }
}

/**
 * What a track shows, with the effects of the track, as one picture: it is drawn by itself and then laid down as its
 * clips would be.
 * @returns `null` where that can't be: what acts on all beneath has no picture of its own, and what comes and what goes
 *   mix with what is beneath in different ways
 */
export function trackGroup(layer: LayerPlan, effects: EffectsPlan, { width, height }: OutputSize): ReelLayer | null {
  const sides = layer.kind === 'transition' ? [layer.from, layer.to] : [layer]
  if (sides.some((side) => side?.kind === 'backdrop')) return null
  const blends = blendsOf(layer)
  if (blends.some((blend) => blend !== blends[0])) return null
  const plan: FramePlan = { width, height, background: null, layers: [plainly(layer)], effects, passThrough: false }
  return {
    ...{ kind: 'reel', plan, width, height, matrix: IDENTITY, opacity: 1, alpha: true },
    ...(blends[0] ? { blend: blends[0] } : {}),
  }
}
