import { defineTransition } from '../define'

/** Every second line changes first. */
export const lines = defineTransition({
  id: 'lines',
  name: 'Scan lines',
  family: 'glitches',
  hint: 'Every second line changes first.',
  draw(stage, t) {
    stage.wipe('lines', (x, y) => (Math.floor(y * 180) % 2) * 0.5 + x * 0.5, t, { softness: 4 })
  },
})
