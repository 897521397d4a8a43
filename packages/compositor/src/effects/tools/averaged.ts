import { invert, multiply, scaling, sinCosDegrees, type Matrix } from '@dusk/timeline'
import { Picture } from '../../picture'
import type { EffectStage } from '../stage'

/** Width from which a smear is worked out on half the size: what is smeared has no fine detail left. */
const LARGE = 1280

/**
 * The mean of many copies of a picture along a movement: `steps` squared of them, in two rounds of `steps` each.
 * @param matrixOf where it is at a part of the way; a way of a + b has to be that of a after that of b
 * @param from the part of the way it begins with; it goes on for 1
 * @param coarse whether fine detail may be lost all over
 */
export function averaged(
  stage: EffectStage,
  steps: number,
  matrixOf: (t: number) => readonly number[],
  { from = -0.5, coarse = false, picture = stage.picture }: { from?: number; coarse?: boolean; picture?: Picture } = {},
): void {
  const { engine } = stage
  const before = stage.copy()
  smear(stage, steps, matrixOf, from, coarse, picture)
  // Beyond its edges there is no picture to be smeared in: what is there counts for more.
  if (picture === stage.picture) engine.kernels.keepAlpha(picture.address(), before.address(), stage.pixels)
  before.release()
}

function smear(
  stage: EffectStage,
  steps: number,
  matrixOf: (t: number) => readonly number[],
  from: number,
  coarse: boolean,
  picture: Picture,
): void {
  const { engine } = stage
  if (!coarse || picture.width < LARGE) return rounds(stage, picture, steps, matrixOf, from)
  const small = Picture.rgba(engine, Math.ceil(picture.width / 2), Math.ceil(picture.height / 2))
  const [sx, sy] = [small.width / picture.width, small.height / picture.height]
  const shrink = scaling(sx, sy)
  const grow = invert(shrink)!
  const clear = (of: Picture) => engine.kernels.fill(of.address(), of.width * of.height, 0)
  clear(small)
  stage.lay(picture, shrink, 1, small)
  rounds(stage, small, steps, (t) => multiply(multiply(shrink, matrixOf(t) as unknown as Matrix), grow), from)
  clear(picture)
  stage.lay(small, grow, 1, picture)
  small.release()
}

function rounds(
  stage: EffectStage,
  picture: Picture,
  steps: number,
  matrixOf: (t: number) => readonly number[],
  from: number,
): void {
  const { kernels, heap } = stage.engine
  const pixels = picture.width * picture.height
  const sums = heap.allocate(pixels * 16)
  const one = Picture.rgba(stage.engine, picture.width, picture.height)
  // Large steps first, small ones between them.
  for (const [begin, step] of [
    [from, 1 / steps],
    [0, 1 / (steps * steps)],
  ] as const) {
    kernels.fill(sums, pixels * 4, 0)
    for (let i = 0; i < steps; i++) {
      kernels.fill(one.address(), pixels, 0)
      stage.lay(picture, matrixOf(begin + i * step), 1, one)
      kernels.addUp(one.address(), sums, pixels * 4)
    }
    kernels.average(sums, picture.address(), pixels * 4, steps)
  }
  heap.release(sums)
  one.release()
}

/** Size and turning about a point, as a matrix. */
export function about([cx, cy]: readonly [number, number], size: number, angle: number): number[] {
  const [sin, cos] = sinCosDegrees(angle)
  const [a, b] = [cos * size, sin * size]
  return [a, b, -b, a, cx - a * cx + b * cy, cy - b * cx - a * cy]
}
