import { BLEND_MODES, sinCosDegrees } from '@dusk/timeline'
import { choice, colour, definePicture, degrees, num, percent, preset } from '../define'
import { parts } from '../colour/tools'

const MODES = { 'soft-light': 'Soft light', screen: 'Lighten', multiply: 'Darken', normal: 'Cover' } as const

export const gradientTint = definePicture({
  id: 'gradientTint',
  name: 'Gradient tint',
  family: 'light',
  hint: 'One colour from one side, another from the other, as a filter before the lens.',
  params: [
    colour('from', 'From', '#ff9e5e'),
    colour('to', 'To', '#4b4fae'),
    degrees('angle', 'Angle', 90),
    percent('amount', 'Amount', 70),
    choice('mode', 'Laid on', MODES),
  ],
  presets: [
    preset('sunsetFilter', 'Sunset filter', { from: '#2c2a6b', to: '#ff8f4f', mode: 'soft-light' }),
    preset('darkSky', 'Darker sky', { from: '#5566aa', to: '#ffffff', mode: 'multiply', amount: 80 }),
  ],
  draw(stage, settings) {
    const { engine, picture, bounds, pixels } = stage
    const { kernels, heap } = engine
    const [sin, cos] = sinCosDegrees(num(settings, 'angle'))
    const half = (Math.abs(cos) * bounds.width + Math.abs(sin) * bounds.height) / 2
    const distance = heap.allocate(pixels * 4)
    const plane = heap.allocate(pixels)
    const [mx, my] = [bounds.x + bounds.width / 2, bounds.y + bounds.height / 2]
    kernels.slopeDistance(distance, picture.width, picture.height, mx, my, cos, sin, 0)
    kernels.cover(distance, plane, pixels, half, half, 1, 0, 1)
    heap.release(distance)
    const sheet = (hex: unknown) => {
      const one = stage.copy()
      const [r, g, b] = parts(hex)
      kernels.towards(one.address(), pixels, r * 255, g * 255, b * 255, 1)
      return one
    }
    const [from, to] = [sheet(settings.from), sheet(settings.to)]
    kernels.mixByCover(to.address(), from.address(), to.address(), plane, pixels, 1)
    kernels.thin(to.address(), pixels, num(settings, 'amount') / 100)
    const mode = settings.mode as keyof typeof MODES
    kernels.blendPixels(to.address(), picture.address(), pixels, BLEND_MODES.indexOf(mode))
    heap.release(plane)
    from.release()
    to.release()
  },
})
