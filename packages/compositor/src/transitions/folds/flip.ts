import { defineTransition, axis } from '../define'
import { bendCard } from '../cards'

/** The picture turns over like a card. */
export const flip = defineTransition({
  id: 'flip',
  name: 'Flip',
  family: 'folds',
  hint: 'The picture turns over like a card.',
  ease: 'both',
  params: [axis()],
  draw(stage, t, settings) {
    const across = settings.axis !== 'down'
    const angle = t * 0.5
    const shown = t < 0.5 ? stage.from : stage.to
    bendCard(stage, shown, across, t < 0.5 ? angle : angle - 0.5)
  },
})
