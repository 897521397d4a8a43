import { part, smooth } from './maths'
import type { Stage } from './stage'

/**
 * Bends both pictures about the middle of the frame while the first gives way to the second half way.
 * @param bend from a place about the middle, in pixels, and how far out it is (1: the corners), to where its colour is
 * @param cell side of the squares that are bent as one, in pixels
 */
export function bendMiddle(
  stage: Stage,
  t: number,
  bend: (dx: number, dy: number, r: number) => [number, number],
  cell?: number,
): void {
  const [cx, cy] = [stage.width / 2, stage.height / 2]
  const reach = Math.sqrt(cx * cx + cy * cy)
  const sheet = stage.sheet()
  stage.dissolve(smooth(part(t, 0.35, 0.65)), stage.from, stage.to, sheet)
  stage.bend(
    sheet,
    (x, y) => {
      const [dx, dy] = [x - cx, y - cy]
      const [bx, by] = bend(dx, dy, Math.sqrt(dx * dx + dy * dy) / reach)
      return [cx + bx, cy + by]
    },
    { repeat: true, ...(cell ? { cell } : {}) },
  )
}
