import { sinCosDegrees } from '@dusk/timeline'
import type { Picture } from '../../picture'
import type { EffectStage } from '../stage'

/** The mean of several copies of a picture, each laid by a matrix; `t` goes from −0.5 to 0.5. */
export function averaged(
  stage: EffectStage,
  count: number,
  matrixOf: (t: number) => number[],
  picture: Picture = stage.picture,
): void {
  const { engine } = stage
  const { kernels, heap } = engine
  const values = stage.pixels * 4
  const sums = heap.allocate(values * 4)
  kernels.fill(sums, values, 0)
  const one = stage.sheet()
  for (let i = 0; i < count; i++) {
    kernels.fill(one.address(), stage.pixels, 0)
    stage.lay(picture, matrixOf(count === 1 ? 0 : i / (count - 1) - 0.5), 1, one)
    kernels.addUp(one.address(), sums, values)
  }
  kernels.average(sums, picture.address(), values, count)
  heap.release(sums)
  one.release()
}

/** Size and turning about a point, as a matrix. */
export function about([cx, cy]: readonly [number, number], size: number, angle: number): number[] {
  const [sin, cos] = sinCosDegrees(angle)
  const [a, b] = [cos * size, sin * size]
  return [a, b, -b, a, cx - a * cx + b * cy, cy - b * cx - a * cy]
}
