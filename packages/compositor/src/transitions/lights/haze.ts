import { defineTransition, about } from '../define'
import { smooth, hump, part } from '../maths'

/** Streaks run out from the middle. */
export const haze = defineTransition({
  id: 'haze',
  name: 'Haze',
  family: 'lights',
  hint: 'Streaks run out from the middle.',
  ease: 'both',
  draw(stage, t) {
    const reach = hump(t) * 0.25
    stage.dissolve(smooth(part(t, 0.3, 0.7)))
    // Each pass lays the picture over itself, larger by half of what the one before was: three make eight.
    for (const share of [4 / 7, 2 / 7, 1 / 7])
      stage.lay(stage.copy(stage.out), about(stage, 0.5, 0.5, 1 + reach * share), 0.5)
  },
})
