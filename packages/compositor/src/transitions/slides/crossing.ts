import { defineTransition, number, moved } from '../define'

/** Strips push in from both sides by turns. */
export const crossing = defineTransition({
  id: 'crossing',
  name: 'Crossing',
  family: 'slides',
  hint: 'Strips push in from both sides by turns.',
  ease: 'both',
  params: [number('count', 'Strips', 2, 24, 8)],
  draw(stage, t, settings) {
    const count = Math.round(Number(settings.count))
    for (let i = 0; i < count; i++) {
      const [y0, y1] = [Math.round((i * stage.height) / count), Math.round(((i + 1) * stage.height) / count)]
      const way = i % 2 === 0 ? 1 : -1
      stage.lay(stage.cut(stage.from, 0, y0, stage.width, y1 - y0), moved(way * t * stage.width, y0))
      stage.lay(stage.cut(stage.to, 0, y0, stage.width, y1 - y0), moved(way * (t - 1) * stage.width, y0))
    }
  },
})
