import { defineTransition, number } from '../define'
import { hump } from '../maths'

/** Folds together like a paper fan and opens as the next. */
export const pleats = defineTransition({
  id: 'pleats',
  name: 'Pleats',
  family: 'folds',
  hint: 'Folds together like a paper fan and opens as the next.',
  ease: 'both',
  params: [number('count', 'Pleats', 2, 20, 6)],
  draw(stage, t, settings) {
    const count = Math.round(Number(settings.count))
    const shown = t < 0.5 ? stage.from : stage.to
    const fold = hump(t)
    const wide = 1 - 0.97 * fold
    const { width, height } = stage
    stage.bend(
      shown,
      (x, y) => {
        const u = (x / width - 0.5) / wide + 0.5
        const inside = (u * count) % 1
        const slope = Math.floor(u * count) % 2 === 0 ? inside : 1 - inside
        const lift = 1 + 0.22 * fold * (slope - 0.5)
        return [u * width, (y - height / 2) * lift + height / 2, 1 - fold * 0.6 * slope]
      },
      { cell: 4 },
    )
  },
})
