import type { Point } from '@dusk/timeline'

/** Screen pixels around a picture's middle that belong to moving it. */
const FREE = 30

/**
 * Where a handle stands: on its place on the outline, but never so near to the middle that a small picture could not be
 * taken hold of between its handles.
 * @param place on the outline, in screen pixels
 * @param middle of the outline
 */
export function handlePlace(place: Point, middle: Point): Point {
  const [dx, dy] = [place[0] - middle[0], place[1] - middle[1]]
  const away = Math.hypot(dx, dy)
  if (away >= FREE || away === 0) return place
  return [middle[0] + (dx / away) * FREE, middle[1] + (dy / away) * FREE]
}
