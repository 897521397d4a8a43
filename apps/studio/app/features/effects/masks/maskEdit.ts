import {
  changeAt,
  isAnimated,
  maskParams,
  paramAt,
  pathAt,
  type Animated,
  type Mask,
  type MaskPoint,
  type MaskShape,
  type MaskStroke,
  type Point,
  type Value,
} from '@dusk/timeline'

/** Names of the kinds of shape, and what is done to draw one. */
export const SHAPES = {
  rectangle: { name: 'Rectangle', hint: 'Drag its middle, its sides and its knob.' },
  ellipse: { name: 'Ellipse', hint: 'Drag its middle, its sides and its knob.' },
  pen: {
    name: 'Pen',
    hint: 'Click to put points, drag them; with Alt handles come out; a double click takes one out.',
  },
  straight: { name: 'Straight gradient', hint: 'Drag its middle and its two ends.' },
  radial: { name: 'Round gradient', hint: 'Drag its middle and its sides.' },
  brush: { name: 'Brush', hint: 'Paint on the picture; with Alt it rubs out.' },
} as const satisfies Record<MaskShape['kind'], { name: string; hint: string }>

/** A new shape in the middle of the picture. */
export function newShape(kind: MaskShape['kind'], first: boolean): MaskShape {
  const id = crypto.randomUUID()
  return {
    ...{ id, kind, mode: first ? 'add' : kind === 'brush' ? 'add' : 'subtract', settings: {} },
    ...(kind === 'pen' ? { path: [] } : {}),
    ...(kind === 'brush' ? { strokes: [] } : {}),
  }
}

/** A mask with one of its shapes changed. */
export const withShape = (mask: Mask, id: string, change: (shape: MaskShape) => MaskShape): Mask => ({
  shapes: mask.shapes.map((shape) => (shape.id === id ? change(shape) : shape)),
})

/** A setting of a shape at a moment of its owner's time. */
export function settingOf<T extends Value>(shape: MaskShape, key: string, time: number): T {
  const param = maskParams(shape.kind).find((entry) => entry.key === key)
  return (param ? paramAt(param, shape.settings, time) : 0) as T
}

/** A shape with settings changed at a moment: where one has keyframes, one is set. */
export function setAt(shape: MaskShape, time: number, values: Record<string, Value>): MaskShape {
  const settings = { ...shape.settings }
  for (const [key, value] of Object.entries(values)) {
    const old = settings[key]
    settings[key] = (old !== undefined && isAnimated(old) ? changeAt(old, time, value) : value) as Animated
  }
  return { ...shape, settings }
}

/** Points of a pen's outline at a moment. */
export const pointsOf = (shape: MaskShape, time: number): MaskPoint[] =>
  shape.path && shape.path.length > 0 ? pathAt(shape.path, time) : []

/** A pen with another outline at a moment; one with several keyframes gets one there. */
export function withPoints(shape: MaskShape, time: number, points: MaskPoint[]): MaskShape {
  const path = shape.path ?? []
  if (path.length <= 1 || points.length < 2)
    return {
      ...shape,
      path: points.length < 2 ? [] : [{ at: path[0]?.at ?? time, ease: path[0]?.ease ?? 'both', points }],
    }
  const before = path.filter((key) => key.at < time)
  const here = { at: time, ease: path.find((key) => key.at === time)?.ease ?? before.at(-1)?.ease ?? 'both', points }
  // A point that was put in or taken out is so in every keyframe, or they could not be mixed.
  const alike = path.every((key) => key.points.length === points.length)
  const rest = path.filter((key) => key.at !== time)
  if (!alike)
    return { ...shape, path: [...rest.filter((key) => key.points.length === points.length), here].sort(byTime) }
  return { ...shape, path: [...rest, here].sort(byTime) }
}
const byTime = (a: { at: number }, b: { at: number }) => a.at - b.at

/** Whether a pen's outline has a keyframe at a moment, or any. */
export const pathKeyed = (shape: MaskShape): boolean => (shape.path?.length ?? 0) > 1

/** Sets or takes away a keyframe of the outline. The first one set makes two, so that there is something to go from. */
export function togglePathKey(shape: MaskShape, time: number): MaskShape {
  const path = shape.path ?? []
  if (path.length === 0) return shape
  if (path.some((key) => key.at === time) && path.length > 1)
    return { ...shape, path: path.filter((key) => key.at !== time) }
  const points = pathAt(path, time)
  const begun = path.length === 1 && path[0]!.at === time ? [] : path
  return {
    ...shape,
    path: [...begun.filter((key) => key.at !== time), { at: time, ease: 'both', points }].sort(byTime) as never,
  }
}

/** How near to a side a click puts a point into it, as a part of the picture in percent. */
const NEAR = 3

/** Points with one more at a place: in the side that is near, or at the end. */
export function withPointAt(points: readonly MaskPoint[], [x, y]: Point, aspect: number): MaskPoint[] {
  const fresh: MaskPoint = [round(x), round(y), 0, 0, 0, 0]
  if (points.length < 3) return [...points, fresh]
  let [best, least] = [-1, NEAR]
  for (const [i, [ax, ay]] of points.entries()) {
    const [bx, by] = points[(i + 1) % points.length]!
    const [dx, dy] = [(bx - ax) * aspect, by - ay]
    const length = dx * dx + dy * dy || 1
    const t = Math.min(1, Math.max(0, ((x - ax) * aspect * dx + (y - ay) * dy) / length))
    const away = Math.hypot((x - ax) * aspect - dx * t, y - ay - dy * t)
    if (away < least) [best, least] = [i, away]
  }
  return best < 0 ? [...points, fresh] : [...points.slice(0, best + 1), fresh, ...points.slice(best + 1)]
}

const round = (value: number) => Math.round(value * 100) / 100

/** A point put elsewhere, with its handles. */
export const movedTo = ([, , ...handles]: MaskPoint, [x, y]: Point): MaskPoint =>
  [round(x), round(y), ...handles] as MaskPoint

/** A point whose handle on one side was dragged; the other stays opposite unless it is broken off. */
export function withHandle(point: MaskPoint, side: 'in' | 'out', [hx, hy]: Point, broken: boolean): MaskPoint {
  const [x, y, inX, inY, outX, outY] = point
  const [dx, dy] = [round(hx - x), round(hy - y)]
  if (side === 'out') return [x, y, broken ? inX : -dx, broken ? inY : -dy, dx, dy]
  return [x, y, dx, dy, broken ? outX : -dx, broken ? outY : -dy]
}

/** A brush with a stroke more. */
export const withStroke = (shape: MaskShape, stroke: MaskStroke): MaskShape => ({
  ...shape,
  strokes: [...(shape.strokes ?? []), stroke],
})

/** A line with fewer places: those that tell nothing, nearer than `near` percent, are left out. */
export function thinned(places: readonly [number, number][], near: number): [number, number][] {
  const kept: [number, number][] = []
  for (const [i, place] of places.entries()) {
    const last = kept.at(-1)
    if (last && i < places.length - 1 && Math.hypot(place[0] - last[0], place[1] - last[1]) < near) continue
    kept.push([round(place[0]), round(place[1])])
  }
  return kept.slice(0, 2000)
}
