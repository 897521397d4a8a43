import { FRAMES_AROUND } from '@dusk/timeline'
import { definePicture, num, number, percent, preset } from '../define'

export const steadyNoise = definePicture({
  id: 'steadyNoise',
  name: 'Less flicker',
  family: 'detail',
  hint: 'Weighs the frames before and after where they are alike: noise goes, what moves stays sharp. Footage only.',
  params: [
    // The plan brings as many.
    { ...number('around', 'Frames to each side', 1, 3, FRAMES_AROUND.steadyNoise!, { digits: 0 }), fixed: true },
    percent('level', 'Noise', 35),
    percent('amount', 'Amount', 100),
  ],
  presets: [preset('tripod', 'On a tripod', { around: 3, level: 60 })],
  draw(stage, settings) {
    const { engine, picture, pixels, around } = stage
    const { kernels, heap } = engine
    const frames = around.slice(0, Math.round(num(settings, 'around')) * 2)
    if (frames.length === 0) return
    const sums = heap.allocate(pixels * 16)
    kernels.beginAlike(picture.address(), sums, pixels)
    const level = 2 + num(settings, 'level') / 3
    for (const draw of frames) {
      const one = stage.sheet()
      draw(one)
      kernels.addAlike(picture.address(), one.address(), sums, pixels, level)
      one.release()
    }
    kernels.endAlike(sums, picture.address(), pixels, num(settings, 'amount') / 100)
    heap.release(sums)
  },
})
