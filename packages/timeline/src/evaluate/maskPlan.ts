import type { Mask, MaskPathKey, MaskPoint, MaskShape, MaskStroke } from '../document/mask'
import type { Value } from '../params/animated'
import { easeAt } from '../params/ease'
import { maskParams } from '../params/maskParams'
import { resolveParams } from '../params/spec'
import { grain, rounded } from './settingsAt'

/** A shape of a mask at a moment. */
export interface MaskShapePlan {
  kind: MaskShape['kind']
  mode: MaskShape['mode']
  settings: Record<string, Value>
  points?: MaskPoint[]
  strokes?: MaskStroke[]
}

/** A mask at a moment: its shapes, the first at the bottom. */
export type MaskPlan = MaskShapePlan[]

/** An outline between two keyframes. Outlines of another number of points can't be mixed: the earlier one stays. */
export function pathAt(path: readonly MaskPathKey[], time: number): MaskPoint[] {
  const next = path.findIndex((key) => key.at > time)
  if (next === 0) return path[0]!.points
  const from = path.at(next < 0 ? -1 : next - 1)!
  const to = next < 0 ? null : path[next]!
  if (!to || from.points.length !== to.points.length) return from.points
  const t = easeAt(from.ease, (time - from.at) / (to.at - from.at))
  return from.points.map(
    (point, i) => point.map((value, k) => grain(value + (to.points[i]![k]! - value) * t)) as MaskPoint,
  )
}

/** A mask at a moment of its owner's time, numbers rounded so that they are the same everywhere. */
export function maskPlan({ shapes }: Mask, time: number): MaskPlan {
  return shapes.map(({ kind, mode, settings, path, strokes }) => ({
    ...{ kind, mode },
    settings: Object.fromEntries(
      Object.entries(resolveParams(maskParams(kind), settings, time)).map(([key, value]) => [key, rounded(value)]),
    ),
    ...(kind === 'pen' && path && path.length > 0 ? { points: pathAt(path, time) } : {}),
    ...(kind === 'brush' && strokes ? { strokes } : {}),
  }))
}
