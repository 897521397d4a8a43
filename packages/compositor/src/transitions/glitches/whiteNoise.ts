import { colourWord } from '../../colour'
import { defineTransition } from '../define'
import type { Shape } from '../maps'
import { hash, smooth, hump } from '../maths'

/** Noise swallows the picture. */
export const whiteNoise = defineTransition({
  id: 'whiteNoise',
  name: 'White noise',
  family: 'glitches',
  hint: 'Noise swallows the picture.',
  draw(stage, t) {
    const step = Math.floor(t * 24)
    const noisePicture = stage.sheet()
    const pale = stage.sheet()
    const pixels = stage.width * stage.height
    stage.engine.kernels.fill(noisePicture.address(), pixels, colourWord('#1a1722'))
    stage.engine.kernels.fill(pale.address(), pixels, colourWord('#c9c3d3'))
    const speckle: Shape = (x, y) => hash(Math.floor(x * 320), Math.floor(y * 180), step % 4)
    stage.wipe(`white ${step % 4}`, speckle, 0.5, { softness: 60 }, noisePicture, pale, noisePicture)
    const shown = t < 0.5 ? stage.from : stage.to
    const swallow: Shape = (x, y) => hash(Math.floor(x * 320), Math.floor(y * 180), 9)
    stage.wipe('white', swallow, smooth(hump(t)), { softness: 30 }, shown, noisePicture)
  },
})
