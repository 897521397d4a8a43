import { sinCosDegrees } from '@dusk/timeline'
import { choice, definePicture, num, number, percent, pixels, preset } from '../define'
import { bent } from '../tools/bent'

export const wave = definePicture({
  id: 'wave',
  name: 'Wave',
  family: 'bend',
  hint: 'The picture sways in waves, as reflected in water.',
  params: [
    pixels('height', 'Height', 14, 200),
    pixels('length', 'Length', 220, 1000),
    number('speed', 'Waves a second', 0, 5, 0.6, { digits: 2, step: 0.01 }),
    choice('way', 'Way', { across: 'Across', down: 'Up and down' }),
  ],
  presets: [
    preset('stillWater', 'Still water', { height: 6, length: 320, speed: 0.3 }),
    preset('heatHaze', 'Heat haze', { height: 3, length: 60, speed: 1.6 }),
  ],
  draw(stage, settings) {
    const height = num(settings, 'height') * stage.scale
    const length = Math.max(4, num(settings, 'length') * stage.scale)
    const turn = stage.time * num(settings, 'speed') * 360
    const across = settings.way === 'across'
    bent(stage, (x, y) => {
      const [sin] = sinCosDegrees((((((across ? y : x) / length) * 360 + turn) % 360) + 360) % 360)
      return across ? [x + sin * height, y] : [x, y + sin * height]
    })
  },
})

export const bulge = definePicture({
  id: 'bulge',
  name: 'Bulge',
  family: 'bend',
  hint: 'A round glass over the picture; below zero it is drawn in.',
  params: [
    number('amount', 'Amount', -100, 100, 45, { digits: 0 }),
    percent('size', 'Size', 60, 200),
    percent('x', 'Middle across', 50),
    percent('y', 'Middle down', 50),
  ],
  presets: [preset('fishEye', 'Fish eye', { amount: 60, size: 160 }), preset('pinch', 'Pinched', { amount: -50 })],
  draw(stage, settings) {
    const { bounds } = stage
    const cx = bounds.x + (bounds.width * num(settings, 'x')) / 100
    const cy = bounds.y + (bounds.height * num(settings, 'y')) / 100
    const radius = Math.max(4, (Math.min(bounds.width, bounds.height) / 2) * (num(settings, 'size') / 100))
    const amount = num(settings, 'amount') / 100
    bent(stage, (x, y) => {
      const [dx, dy] = [x - cx, y - cy]
      const far = Math.sqrt(dx * dx + dy * dy) / radius
      if (far >= 1) return [x, y]
      const inside = 1 - far * far
      const by = 1 - amount * inside * (amount > 0 ? 0.8 : 1.2)
      return [cx + dx * by, cy + dy * by]
    })
  },
})

export const mirror = definePicture({
  id: 'mirror',
  name: 'Mirror',
  family: 'bend',
  hint: 'One half of the picture, and the same the other way round.',
  params: [choice('half', 'Half that stays', { left: 'Left', right: 'Right', top: 'Top', bottom: 'Bottom' })],
  draw(stage, settings) {
    const { x, y, width, height } = stage.bounds
    const [mx, my] = [x + width / 2, y + height / 2]
    const sides: Record<string, (u: number, v: number) => [number, number]> = {
      left: (u, v) => [u > mx ? 2 * mx - u : u, v],
      right: (u, v) => [u < mx ? 2 * mx - u : u, v],
      top: (u, v) => [u, v > my ? 2 * my - v : v],
      bottom: (u, v) => [u, v < my ? 2 * my - v : v],
    }
    bent(stage, sides[String(settings.half)] ?? sides.left!)
  },
})
