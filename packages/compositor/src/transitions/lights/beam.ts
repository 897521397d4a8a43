import { defineTransition, direction4, colour, vectorOf } from '../define'

/** A bar of light crosses and leaves the new picture behind it. */
export const beam = defineTransition({
  id: 'beam',
  name: 'Beam',
  family: 'lights',
  hint: 'A bar of light crosses and leaves the new picture behind it.',
  ease: 'both',
  params: [direction4('right'), colour('#fff4dc')],
  draw(stage, t, settings) {
    const [dx, dy] = vectorOf(settings.direction)
    stage.wipe(`beam ${dx} ${dy}`, (x, y) => (x - 0.5) * dx + (y - 0.5) * dy + 0.5, t, {
      softness: 14,
      edge: 100,
      edgeColour: String(settings.colour),
    })
  },
})
