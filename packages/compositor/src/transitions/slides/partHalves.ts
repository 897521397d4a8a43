import { defineTransition, axis, moved } from '../define'

/** The old picture parts in two halves. */
export const partHalves = defineTransition({
  id: 'partHalves',
  name: 'Part',
  family: 'slides',
  hint: 'The old picture parts in two halves.',
  ease: 'both',
  params: [axis()],
  draw(stage, t, settings) {
    const down = settings.axis === 'down'
    const { width, height } = stage
    stage.put(stage.to)
    const size = down ? Math.round(height / 2) : Math.round(width / 2)
    const first = down ? stage.cut(stage.from, 0, 0, width, size) : stage.cut(stage.from, 0, 0, size, height)
    const second = down
      ? stage.cut(stage.from, 0, size, width, height - size)
      : stage.cut(stage.from, size, 0, width - size, height)
    stage.lay(first, down ? moved(0, -t * size) : moved(-t * size, 0))
    stage.lay(second, down ? moved(0, size + t * size) : moved(size + t * size, 0))
  },
})
