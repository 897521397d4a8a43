import { BLEND_MODES } from '@dusk/timeline'
import { defineTransition } from '../define'
import { unit } from '../maths'

/** The two lights add up on the way, so the middle glows. */
export const bloomDissolve = defineTransition({
  id: 'bloomDissolve',
  name: 'Bloom dissolve',
  family: 'dissolves',
  hint: 'The two lights add up on the way, so the middle glows.',
  draw(stage, t) {
    const a = stage.copy(stage.from)
    const { kernels } = stage.engine
    const pixels = stage.width * stage.height
    kernels.thin(a.address(), pixels, unit(2 - 2 * t))
    const b = stage.copy(stage.to)
    kernels.thin(b.address(), pixels, unit(2 * t))
    stage.put(a)
    kernels.blendPixels(b.address(), stage.out.address(), pixels, BLEND_MODES.indexOf('plus-lighter'))
  },
})
