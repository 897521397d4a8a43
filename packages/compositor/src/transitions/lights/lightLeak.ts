import { BLEND_MODES } from '@dusk/timeline'
import { colourWord } from '../../colour'
import { defineTransition, colour } from '../define'
import { sinTurn, smooth, hump, part } from '../maths'

/** Warm light strays across while the pictures mix. */
export const lightLeak = defineTransition({
  id: 'lightLeak',
  name: 'Light leak',
  family: 'lights',
  hint: 'Warm light strays across while the pictures mix.',
  params: [colour('#ff9e5e')],
  draw(stage, t, settings) {
    stage.dissolve(smooth(part(t, 0.3, 0.7)))
    const glow = stage.sheet()
    stage.engine.kernels.fill(glow.address(), stage.width * stage.height, colourWord(String(settings.colour)))
    const veil = stage.sheet()
    const [cx, wide] = [1.6 * t - 0.3, 0.5]
    stage.bend(
      glow,
      (x, y) => {
        const away = Math.abs(x / stage.width - cx - 0.12 * sinTurn(y / stage.height)) / wide
        return [1, 1, smooth(1 - away) * hump(t)]
      },
      { repeat: true, target: veil },
    )
    stage.engine.kernels.blendPixels(
      veil.address(),
      stage.out.address(),
      stage.width * stage.height,
      BLEND_MODES.indexOf('screen'),
    )
  },
})
