// How high a wave gets between its samples (ITU-R BS.1770-5, annex 2), four samples side by side.
import { BLOCK } from './block'

/** Taps of each place between two samples. */
const COUNT: i32 = 24

/** Coefficients of the three places between two samples, newest sample first. */
export const TAPS: usize = memory.data(3 * 24 * 4)

/** The samples before the block, oldest first, and then the block itself. */
export const HISTORY: usize = memory.data((24 + 128) * 4)

/** For each sample of the block, the highest around the sample half the taps before it. */
export const PEAKS: usize = memory.data(128 * 4)

/** Raises {@link PEAKS} to what is found. */
export function between(): void {
  for (let i = 0; i < BLOCK; i += 4) {
    const newest = HISTORY + ((COUNT + i) << 2)
    let b = f32x4.splat(0)
    let c = f32x4.splat(0)
    let d = f32x4.splat(0)
    for (let k = 0; k < COUNT; k++) {
      const x = v128.load(newest - (k << 2))
      b = f32x4.add(b, f32x4.mul(x, v128.load_splat<f32>(TAPS + (k << 2))))
      c = f32x4.add(c, f32x4.mul(x, v128.load_splat<f32>(TAPS + ((COUNT + k) << 2))))
      d = f32x4.add(d, f32x4.mul(x, v128.load_splat<f32>(TAPS + ((2 * COUNT + k) << 2))))
    }
    const on = f32x4.abs(v128.load(newest - ((COUNT / 2 - 1) << 2)))
    const most = f32x4.max(f32x4.max(on, f32x4.abs(b)), f32x4.max(f32x4.abs(c), f32x4.abs(d)))
    v128.store(PEAKS + (i << 2), f32x4.max(v128.load(PEAKS + (i << 2)), most))
  }
}
