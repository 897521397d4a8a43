import type { Param } from '@dusk/timeline'
import { choice, num, percent, pixels, type EffectSettings } from '../define'
import type { EffectStage } from '../stage'

/** Settings of a matte's edge, alike for every way of cutting out. */
export const KEY_EDGE: Param[] = [
  percent('clean', 'Clean the ground', 8, 100, { group: 'Edge', hint: 'What is nearly nothing becomes nothing' }),
  percent('fill', 'Fill the inside', 8, 100, { group: 'Edge', hint: 'What is nearly all becomes all' }),
  pixels('specks', 'Specks up to', 0, 12, { group: 'Edge' }),
  pixels('holes', 'Holes up to', 0, 12, { group: 'Edge' }),
  {
    ...{ kind: 'number', key: 'shrink', label: 'Shrink', min: -20, max: 20, default: 0, unit: 'px', digits: 1 },
    group: 'Edge',
  },
  pixels('feather', 'Feather', 0.6, 30, { group: 'Edge' }),
  {
    ...choice('view', 'Viewer shows', { picture: 'The picture', board: 'Over a board', matte: 'The matte' }),
    hint: 'Only while you work: a rendered video and a saved frame always have the picture',
    inspects: true,
  },
]

/** Cleans a matte, shrinks and softens its edge, and leaves of the picture what it covers. */
export function finishKey(stage: EffectStage, settings: EffectSettings, plane: number): void {
  const { engine, picture, pixels: count } = stage
  const { kernels, heap } = engine
  const { width, height } = picture
  const other = heap.allocate(count)
  const sums = heap.allocate(width * 4)
  kernels.stretchCover(plane, count, num(settings, 'clean') * 1.6, 255 - num(settings, 'fill') * 1.6)
  const spread = (radius: number, most: 0 | 1) => {
    if (radius < 1) return
    kernels.spreadCover(plane, other, width, height, radius, most, 0)
    kernels.spreadCover(other, plane, width, height, radius, most, 1)
  }
  const lengths = (key: string) => Math.round(num(settings, key) * stage.scale)
  // Smaller than what is to go, and as large again: specks don't come back. Holes the other way round.
  const [specks, holes, shrink] = [lengths('specks'), lengths('holes'), lengths('shrink')]
  spread(specks, 0)
  spread(specks, 1)
  spread(holes, 1)
  spread(holes, 0)
  spread(Math.abs(shrink), shrink > 0 ? 0 : 1)
  const feather = Math.round(num(settings, 'feather') * stage.scale)
  for (let pass = 0; feather > 0 && pass < 2; pass++) {
    kernels.softenCover(plane, other, width, height, Math.max(1, feather >> 1), 0, sums)
    kernels.softenCover(other, plane, width, height, Math.max(1, feather >> 1), 1, sums)
  }
  heap.release(other)
  heap.release(sums)
  kernels.keepCovered(picture.address(), plane, count)
  if (settings.view === 'picture') return
  const squares = Math.max(4, Math.round(24 * stage.scale))
  kernels.showCover(picture.address(), plane, width, height, squares, settings.view === 'matte' ? 1 : 0)
}
