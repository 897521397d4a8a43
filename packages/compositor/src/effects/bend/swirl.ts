import { sinCosDegrees } from '@dusk/timeline'
import { definePicture, degrees, num, percent, preset } from '../define'
import { bent } from '../tools/bent'
import { centre, centreOf } from '../tools/place'

export const swirl = definePicture({
  id: 'swirl',
  name: 'Swirl',
  family: 'bend',
  hint: 'Turned about a point, most in the middle.',
  params: [degrees('angle', 'Angle', 140), percent('size', 'Size', 80, 200), ...centre],
  presets: [preset('eddy', 'Eddy', { angle: 320, size: 50 })],
  draw(stage, settings) {
    const { bounds } = stage
    const [cx, cy] = centreOf(stage, settings)
    const radius = Math.max(4, (Math.min(bounds.width, bounds.height) / 2) * (num(settings, 'size') / 100))
    const angle = num(settings, 'angle')
    bent(stage, (x, y) => {
      const [dx, dy] = [x - cx, y - cy]
      const far = Math.sqrt(dx * dx + dy * dy) / radius
      if (far >= 1) return [x, y]
      const [sin, cos] = sinCosDegrees(angle * (1 - far) * (1 - far))
      return [cx + dx * cos + dy * sin, cy + dy * cos - dx * sin]
    })
  },
})
