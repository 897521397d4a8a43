import { sinCosDegrees } from '@dusk/timeline'
import { definePicture, degrees, num, number, preset } from '../define'
import { bent } from '../tools/bent'
import { centre, centreOf } from '../tools/place'

export const kaleidoscope = definePicture({
  id: 'kaleidoscope',
  name: 'Kaleidoscope',
  family: 'bend',
  hint: 'A slice of the picture, mirrored all round.',
  params: [
    number('slices', 'Mirrors', 2, 16, 6, { digits: 0 }),
    degrees('turn', 'Turned', 0),
    number('speed', 'Degrees a second', -90, 90, 12, { digits: 0, unit: '°' }),
    ...centre,
  ],
  presets: [preset('rosette', 'Rosette', { slices: 12, speed: 6 })],
  draw(stage, settings) {
    const { bounds } = stage
    const [cx, cy] = centreOf(stage, settings)
    // Two mirrors with a slice between them: what lies on the wrong side of one is folded over it, again and again.
    const n = Math.round(num(settings, 'slices'))
    const angle = num(settings, 'turn') + stage.time * num(settings, 'speed')
    const turned = (degrees_: number) => sinCosDegrees(((degrees_ % 360) + 360) % 360)
    const half = 180 / n
    const [s0, c0] = turned(angle)
    const [s1, c1] = turned(angle + half)
    const clampX = (u: number) => Math.min(Math.max(u, bounds.x + 1), bounds.x + bounds.width - 1)
    const clampY = (v: number) => Math.min(Math.max(v, bounds.y + 1), bounds.y + bounds.height - 1)
    bent(stage, (x, y) => {
      let [dx, dy] = [x - cx, y - cy]
      for (let i = 0; i < n; i++) {
        // Over the first mirror, then over the second, until it lies between them.
        const below = dx * s0 - dy * c0
        if (below > 0) [dx, dy] = [dx - 2 * below * s0, dy + 2 * below * c0]
        const above = dy * c1 - dx * s1
        if (above > 0) [dx, dy] = [dx + 2 * above * s1, dy - 2 * above * c1]
        else if (below <= 0) break
      }
      return [clampX(cx + dx), clampY(cy + dy)]
    })
  },
})
