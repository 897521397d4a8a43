// A compressor's block. The static curve is D. Giannoulis, M. Massberg, J. D. Reiss, "Digital Dynamic Range Compressor
// Design", JAES 60, 2012, equation 4.
import { BLOCK, LEFT, RIGHT } from './block'

/**
 * Decibels held down by, in double precision: where the follower stood, the lowest of the block, what was wanted last,
 * the most that was wanted in the stretch that is under way and in the one before it, and samples that it still lasts.
 */
export const COMPRESSOR: usize = memory.data(48)

/** Samples of a stretch: half a period of 50 Hz. What is wanted is held over two, so that no wave is let go between. */
const HOLD: f64 = 480

const GAINS: usize = memory.data(BLOCK * 4)

/** Decibels of one doubling: 20 · log10 2. */
const DOUBLING: f32 = 6.0205999

/** Logarithms to base 2 of positive normal numbers; error below 1e-6. */
// @ts-ignore: decorator
@inline
function log2(x: v128): v128 {
  // With the mantissa between √½ and √2: ln m = 2 artanh((m − 1) / (m + 1)).
  const shifted = i32x4.sub(x, i32x4.splat(0x3f3504f3))
  const exponent = i32x4.shr_s(shifted, 23)
  const m = i32x4.sub(x, i32x4.shl(exponent, 23))
  const s = f32x4.div(f32x4.sub(m, f32x4.splat(1)), f32x4.add(m, f32x4.splat(1)))
  const s2 = f32x4.mul(s, s)
  let sum = f32x4.splat(<f32>(2 / 0.6931471805599453 / 9))
  sum = f32x4.add(f32x4.mul(sum, s2), f32x4.splat(<f32>(2 / 0.6931471805599453 / 7)))
  sum = f32x4.add(f32x4.mul(sum, s2), f32x4.splat(<f32>(2 / 0.6931471805599453 / 5)))
  sum = f32x4.add(f32x4.mul(sum, s2), f32x4.splat(<f32>(2 / 0.6931471805599453 / 3)))
  sum = f32x4.add(f32x4.mul(sum, s2), f32x4.splat(<f32>(2 / 0.6931471805599453)))
  return f32x4.add(f32x4.convert_i32x4_s(exponent), f32x4.mul(sum, s))
}

/** Two to the power of numbers within ±100; error below 1e-6 of the result. */
// @ts-ignore: decorator
@inline
function exp2(x: v128): v128 {
  const whole = f32x4.nearest(x)
  const y = f32x4.mul(f32x4.sub(x, whole), f32x4.splat(<f32>0.6931471805599453))
  let sum = f32x4.splat(<f32>(1.0 / 720))
  sum = f32x4.add(f32x4.mul(sum, y), f32x4.splat(<f32>(1.0 / 120)))
  sum = f32x4.add(f32x4.mul(sum, y), f32x4.splat(<f32>(1.0 / 24)))
  sum = f32x4.add(f32x4.mul(sum, y), f32x4.splat(<f32>(1.0 / 6)))
  sum = f32x4.add(f32x4.mul(sum, y), f32x4.splat(0.5))
  sum = f32x4.add(f32x4.mul(sum, y), f32x4.splat(1))
  sum = f32x4.add(f32x4.mul(sum, y), f32x4.splat(1))
  const power = i32x4.shl(i32x4.add(i32x4.trunc_sat_f32x4_s(whole), i32x4.splat(127)), 23)
  return f32x4.mul(sum, power)
}

/**
 * Holds the block down where it is loud, both sides alike. The detector keeps to the peaks of a wave, releases from
 * them, and is then smoothed by the attack: the decoupled peak detector of the same paper (section 2.3), with a hold.
 * @param into where the knee begins, decibels
 * @param knee its width, decibels
 * @param slope 1 / ratio − 1
 * @param attack coefficient of the follower on its way down, and `release` on its way back
 * @param makeup factor for all of it
 */
export function compress(into: f32, knee: f32, slope: f32, attack: f64, release: f64, makeup: f32): void {
  const from = f32x4.splat(into)
  const half = f32x4.splat(knee / 2)
  const width = f32x4.splat(knee)
  const slopes = f32x4.splat(slope)
  const bend = f32x4.splat(knee > 0 ? slope / (2 * knee) : 0)
  const least = f32x4.splat(<f32>1e-30)
  const zero = f32x4.splat(0)
  for (let i: usize = 0; i < <usize>BLOCK * 4; i += 16) {
    const loudest = f32x4.max(f32x4.abs(v128.load(LEFT + i)), f32x4.abs(v128.load(RIGHT + i)))
    const level = f32x4.mul(log2(f32x4.max(loudest, least)), f32x4.splat(DOUBLING))
    const over = f32x4.max(f32x4.sub(level, from), zero)
    const bent = f32x4.mul(f32x4.mul(bend, over), over)
    const straight = f32x4.mul(slopes, f32x4.sub(over, half))
    v128.store(GAINS + i, v128.bitselect(bent, straight, f32x4.lt(over, width)))
  }
  let held = load<f64>(COMPRESSOR)
  let lowest: f64 = 0
  let wanted = load<f64>(COMPRESSOR, 16)
  let now = load<f64>(COMPRESSOR, 24)
  let before = load<f64>(COMPRESSOR, 32)
  let left = load<f64>(COMPRESSOR, 40)
  for (let i: usize = 0; i < <usize>BLOCK * 4; i += 4) {
    const to = <f64>load<f32>(GAINS + i)
    if (left <= 0) {
      before = now
      now = to
      left = HOLD
    }
    left -= 1
    now = min(now, to)
    const most = min(now, before)
    wanted = most < wanted ? most : most + (wanted - most) * release
    held = wanted < held ? wanted + (held - wanted) * attack : wanted
    held = select<f64>(0, held, held > -1e-6)
    lowest = min(lowest, held)
    store<f32>(GAINS + i, <f32>held)
  }
  store<f64>(COMPRESSOR, held)
  store<f64>(COMPRESSOR, lowest, 8)
  store<f64>(COMPRESSOR, select<f64>(0, wanted, wanted > -1e-6), 16)
  store<f64>(COMPRESSOR, now, 24)
  store<f64>(COMPRESSOR, before, 32)
  store<f64>(COMPRESSOR, left, 40)
  const by = f32x4.splat(makeup)
  const doublings = f32x4.splat(1 / DOUBLING)
  for (let i: usize = 0; i < <usize>BLOCK * 4; i += 16) {
    const gain = f32x4.mul(exp2(f32x4.mul(v128.load(GAINS + i), doublings)), by)
    v128.store(LEFT + i, f32x4.mul(v128.load(LEFT + i), gain))
    v128.store(RIGHT + i, f32x4.mul(v128.load(RIGHT + i), gain))
  }
}
