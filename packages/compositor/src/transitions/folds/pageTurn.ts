import { defineTransition } from '../define'
import { turnOf, unit } from '../maths'

/** A page is turned over. */
export const pageTurn = defineTransition({
  id: 'pageTurn',
  name: 'Page turn',
  family: 'folds',
  hint: 'A page is turned over.',
  ease: 'both',
  draw(stage, t) {
    const { width } = stage
    stage.put(stage.to)
    const radius = width * 0.07
    const edge = width - t * (width + radius)
    // The paper lies flat up to the edge, bends round a roller behind it, and comes back above itself, face down.
    const bent = (x: number) => {
      const k = unit((x - edge) / radius)
      return radius * Math.PI * 2 * turnOf(k, -Math.sqrt(1 - k * k))
    }
    stage.bend(
      stage.from,
      (x, y) =>
        x <= edge
          ? [x, y, 1]
          : x <= edge + radius
            ? [edge + bent(x), y, 1 - 0.5 * unit((x - edge) / radius)]
            : [1e4, y, 0.5],
      { cell: 8 },
    )
    stage.bend(
      stage.from,
      (x, y) => {
        if (x > edge + radius) return [1e4, y, 0.6]
        if (x > edge) return [edge + Math.PI * radius - bent(x), y, 0.72 - 0.2 * unit((x - edge) / radius)]
        return [edge + Math.PI * radius + (edge - x), y, 0.72]
      },
      { cell: 8 },
    )
  },
})
