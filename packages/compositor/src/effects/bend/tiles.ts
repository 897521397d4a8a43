import { choice, definePicture, num, number, preset } from '../define'
import { bent } from '../tools/bent'

export const tiles = definePicture({
  id: 'tiles',
  name: 'Tiles',
  family: 'bend',
  hint: 'The picture many times, side by side or mirrored.',
  params: [
    number('count', 'Across', 1, 12, 3, { digits: 1, step: 0.1 }),
    choice('way', 'Laid', { mirrored: 'Mirrored', plain: 'As they are' }),
    number('speed', 'Tiles a second', -3, 3, 0, { digits: 2, step: 0.01 }),
  ],
  presets: [preset('twoByTwo', 'Four of it', { count: 2, way: 'plain' })],
  draw(stage, settings) {
    const { bounds } = stage
    const count = num(settings, 'count')
    const moved = stage.time * num(settings, 'speed')
    const mirrored = settings.way === 'mirrored'
    const along = (t: number) => {
      const n = Math.floor(t)
      const part = t - n
      return mirrored && n & 1 ? 1 - part : part
    }
    bent(stage, (x, y) => {
      const u = ((x - bounds.x) / bounds.width - 0.5) * count + 0.5 + moved
      const v = ((y - bounds.y) / bounds.height - 0.5) * count + 0.5
      return [bounds.x + along(u) * bounds.width, bounds.y + along(v) * bounds.height]
    })
  },
})
