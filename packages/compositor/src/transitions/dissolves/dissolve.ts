import { defineTransition } from '../define'

/** One picture becomes the other evenly. */
export const dissolve = defineTransition({
  id: 'dissolve',
  name: 'Dissolve',
  family: 'dissolves',
  hint: 'One picture becomes the other evenly.',
  draw(stage, t) {
    stage.dissolve(t)
  },
})
