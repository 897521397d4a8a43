import { colour, definePicture, num, percent, pixels, preset, swing } from '../define'
import { brightParts, shine } from './bright'

export const glow = definePicture({
  id: 'glow',
  name: 'Glow',
  family: 'light',
  hint: 'What is bright shines over its edges.',
  params: [percent('amount', 'Amount', 55, 200), pixels('radius', 'Radius', 40, 300), percent('from', 'From', 55)],
  presets: [
    preset('lanterns', 'Lanterns', { amount: 90, radius: 55, from: 60 }),
    preset('dream', 'Half asleep', { amount: 60, radius: 120, from: 20 }),
  ],
  reach: (settings, scale) => Math.ceil(num(settings, 'radius') * scale * 2),
  draw(stage, settings) {
    const bright = brightParts(stage, num(settings, 'from') / 100)
    const sigma = num(settings, 'radius') * stage.scale
    stage.blur(bright, sigma, sigma)
    shine(stage, bright, num(settings, 'amount') / 100)
    bright.release()
  },
})

export const vignette = definePicture({
  id: 'vignette',
  name: 'Vignette',
  family: 'light',
  hint: 'Corners darker, or brighter, so that the eye stays in the middle.',
  params: [
    swing('amount', 'Amount', -55, { hint: 'Below zero darker, above brighter' }),
    percent('size', 'Size', 60),
    percent('softness', 'Softness', 60),
    percent('x', 'Middle across', 50),
    percent('y', 'Middle down', 50),
  ],
  presets: [
    preset('gentleCorners', 'Gentle corners', { amount: -35, softness: 90 }),
    preset('keyhole', 'Keyhole', { amount: -95, size: 30, softness: 25 }),
  ],
  draw(stage, settings) {
    const { bounds } = stage
    const size = 0.15 + num(settings, 'size') / 100
    stage.vignette(
      ...([
        bounds.x + (bounds.width * num(settings, 'x')) / 100,
        bounds.y + (bounds.height * num(settings, 'y')) / 100,
      ] as const),
      ...([(bounds.width / 2) * size, (bounds.height / 2) * size] as const),
      ...([0.05 + (num(settings, 'softness') / 100) * 1.4, num(settings, 'amount') / 100] as const),
    )
  },
})

export const wash = definePicture({
  id: 'wash',
  name: 'Colour wash',
  family: 'light',
  hint: 'Everything goes towards a colour.',
  params: [colour('colour', 'Colour', '#ff9e5e'), percent('amount', 'Amount', 25)],
  draw(stage, settings) {
    const value = Number.parseInt(String(settings.colour).slice(1), 16)
    const [r, g, b] = [value >> 16, (value >> 8) & 255, value & 255]
    stage.engine.kernels.towards(stage.picture.address(), stage.pixels, r, g, b, num(settings, 'amount') / 100)
  },
})
