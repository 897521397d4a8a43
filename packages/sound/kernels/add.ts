// Adds a stereo sound to a block at its level, rounded as a block of its own would be.
import { BLOCK, LEFT, RIGHT } from './block'

/** What is added: interleaved stereo. */
export const INPUT: usize = memory.data(128 * 8)

/**
 * Adds {@link INPUT} to the block.
 * @param left factor of the left side at the first sample, `leftStep` what it grows by each sample; alike at the right
 */
export function add(left: f64, right: f64, leftStep: f64, rightStep: f64): void {
  const from = f64x2.replace_lane(f64x2.splat(left), 1, right)
  const step = f64x2.replace_lane(f64x2.splat(leftStep), 1, rightStep)
  for (let i = 0; i < BLOCK; i += 4) {
    const at = INPUT + (i << 3)
    const a = louder(at, from, step, i)
    const b = louder(at + 8, from, step, i + 1)
    const c = louder(at + 16, from, step, i + 2)
    const d = louder(at + 24, from, step, i + 3)
    const ab = v128.shuffle<f32>(a, b, 0, 4, 1, 5)
    const cd = v128.shuffle<f32>(c, d, 0, 4, 1, 5)
    const l = v128.shuffle<f64>(ab, cd, 0, 2)
    const r = v128.shuffle<f64>(ab, cd, 1, 3)
    v128.store(LEFT + (i << 2), f32x4.add(v128.load(LEFT + (i << 2)), l))
    v128.store(RIGHT + (i << 2), f32x4.add(v128.load(RIGHT + (i << 2)), r))
  }
}

// @ts-ignore: decorator
@inline
function louder(at: usize, from: v128, step: v128, i: i32): v128 {
  const gain = f64x2.add(from, f64x2.mul(step, f64x2.splat(<f64>i)))
  return f32x4.demote_f64x2_zero(f64x2.mul(f64x2.promote_low_f32x4(v128.load64_zero(at)), gain))
}
