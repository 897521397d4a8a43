import { defineTransition, vectorOf, about, corner } from '../define'

/** The old picture shrinks into a corner. */
export const cornerPin = defineTransition({
  id: 'cornerPin',
  name: 'To the corner',
  family: 'zooms',
  hint: 'The old picture shrinks into a corner.',
  ease: 'in',
  params: [corner()],
  draw(stage, t, settings) {
    const [dx, dy] = vectorOf(settings.corner)
    stage.put(stage.to)
    stage.lay(stage.from, about(stage, (dx + 1) / 2, (dy + 1) / 2, Math.max(0.001, 1 - t)))
  },
})
