import { BLEND_MODES } from '@dusk/timeline'
import { defineTransition } from '../define'
import { smooth, hump, part } from '../maths'

/** Bright parts swell until they swallow the cut. */
export const overglow = defineTransition({
  id: 'overglow',
  name: 'Overglow',
  family: 'lights',
  hint: 'Bright parts swell until they swallow the cut.',
  ease: 'both',
  draw(stage, t) {
    const sheet = stage.begin(t < 0.5 ? stage.from : stage.to)
    const glow = stage.copy(sheet)
    stage.light(glow, '#ffffff', -0.45 + 0.35 * hump(t))
    stage.blur(glow, stage.width / 40, stage.width / 40)
    const { kernels } = stage.engine
    const pixels = stage.width * stage.height
    kernels.thin(glow.address(), pixels, hump(t))
    kernels.blendPixels(glow.address(), stage.out.address(), pixels, BLEND_MODES.indexOf('plus-lighter'))
    stage.light(stage.out, '#ffffff', smooth(part(hump(t), 0.5, 1)) * 0.7)
  },
})
