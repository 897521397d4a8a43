import { definePicture, num, number, percent, pixels, preset, seed } from '../define'
import { swayingDie } from '../tools/dice'

export const filmGate = definePicture({
  id: 'filmGate',
  name: 'Film gate',
  family: 'film',
  hint: 'The frame weaves a little in its gate, with soft dark edges and round corners.',
  params: [
    pixels('weave', 'Weave', 4, 40),
    number('speed', 'Changes a second', 0.5, 20, 8, { digits: 1, step: 0.1 }),
    percent('edge', 'Dark edge', 35),
    seed(),
  ],
  presets: [preset('looseGate', 'Loose gate', { weave: 12, speed: 12, edge: 60 })],
  draw(stage, settings) {
    const { engine, picture, bounds, pixels: count } = stage
    const { kernels, heap } = engine
    const seeded = Math.round(num(settings, 'seed')) * 17
    const at = stage.time * num(settings, 'speed')
    const weave = num(settings, 'weave') * stage.scale
    const [dx, dy] = [swayingDie(at, seeded) - 0.5, swayingDie(at * 0.8, seeded + 1) - 0.5]
    const copy = stage.copy()
    kernels.fill(picture.address(), count, 0)
    // A little larger, so that what weaves in is picture.
    const size = 1 + (2 * weave) / Math.max(1, Math.min(bounds.width, bounds.height))
    const [mx, my] = [bounds.x + bounds.width / 2, bounds.y + bounds.height / 2]
    stage.lay(copy, [size, 0, 0, size, mx - mx * size + dx * weave * 2, my - my * size + dy * weave * 2], 1, picture)
    copy.release()
    const edge = num(settings, 'edge') / 100
    if (edge <= 0) return
    const short = Math.min(bounds.width, bounds.height)
    const distance = heap.allocate(count * 4)
    const plane = heap.allocate(count)
    const inset = short * 0.012
    kernels.boxDistance(
      ...([distance, picture.width, picture.height, mx, my] as const),
      ...([bounds.width / 2 - inset, bounds.height / 2 - inset, 1, 0, short * 0.05, 0] as const),
    )
    kernels.cover(distance, plane, count, short * (0.01 + 0.05 * edge), inset, 1, 0, 0)
    const dark = stage.copy()
    kernels.gainColours(dark.address(), count, 1 - edge, 1 - edge, 1 - edge)
    kernels.mixByCover(dark.address(), picture.address(), picture.address(), plane, count, 1)
    dark.release()
    heap.release(distance)
    heap.release(plane)
  },
})
