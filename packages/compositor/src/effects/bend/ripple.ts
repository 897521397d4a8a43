import { sinCosDegrees } from '@dusk/timeline'
import { definePicture, num, number, percent, pixels, preset } from '../define'
import { bent } from '../tools/bent'
import { centre, centreOf } from '../tools/place'

export const ripple = definePicture({
  id: 'ripple',
  name: 'Ripple',
  family: 'bend',
  hint: 'Rings run outwards, as from a stone in the water.',
  params: [
    pixels('height', 'Height', 16, 120),
    pixels('length', 'Between rings', 120, 600),
    number('speed', 'Rings a second', 0, 6, 1, { digits: 2, step: 0.01 }),
    percent('reach', 'Reach', 90, 200),
    ...centre,
  ],
  presets: [preset('stone', 'A stone fell in', { height: 24, reach: 60 })],
  draw(stage, settings) {
    const { bounds } = stage
    const [cx, cy] = centreOf(stage, settings)
    const height = num(settings, 'height') * stage.scale
    const length = Math.max(3, num(settings, 'length') * stage.scale)
    const far = (Math.max(bounds.width, bounds.height) * num(settings, 'reach')) / 200
    const turn = stage.time * num(settings, 'speed') * 360
    bent(stage, (x, y) => {
      const [dx, dy] = [x - cx, y - cy]
      const away = Math.sqrt(dx * dx + dy * dy)
      if (away >= far || away < 1e-6) return [x, y]
      const [sin] = sinCosDegrees(((((away / length) * 360 - turn) % 360) + 360) % 360)
      const by = (sin * height * (1 - away / far) * Math.min(1, away / length)) / away
      return [x + dx * by, y + dy * by]
    })
  },
})
