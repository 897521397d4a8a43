import { defineTransition, way, about } from '../define'
import { unit, smooth, hump } from '../maths'

/** Turns away and turns in. */
export const spin = defineTransition({
  id: 'spin',
  name: 'Spin',
  family: 'zooms',
  hint: 'Turns away and turns in.',
  ease: 'both',
  params: [way()],
  draw(stage, t, settings) {
    const way = settings.way === 'counter' ? -1 : 1
    const grow = 1 + 1.2 * smooth(Math.min(1, hump(t) * 2.2))
    stage.average(5, (i, target) => {
      const at = unit(t + (i / 4 - 0.5) * 0.06 * hump(t))
      stage.lay(
        t < 0.5 ? stage.from : stage.to,
        about(stage, 0.5, 0.5, grow, grow, way * (t < 0.5 ? at : at - 1) * 180),
        1,
        target,
      )
    })
  },
})
