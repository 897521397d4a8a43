// Second-order filters in a row (transposed direct form 2), left and right side by side in double precision.
import { BLOCK, LEFT, RIGHT } from './block'

/** Most filters in a row. */
const MOST: i32 = 16

/** Five coefficients a filter: b0, b1, b2, a1, a2. */
export const COEFFICIENTS: usize = memory.data(MOST * 5 * 8)

/** What each filter remembers: z1 of left and right, z2 of left and right. */
export const STATES: usize = memory.data(MOST * 4 * 8)

const BOTH: usize = memory.data(BLOCK * 16)

// @ts-ignore: decorator
@inline
function coefficient(n: i32, k: i32): v128 {
  return v128.load_splat<f64>(COEFFICIENTS + ((n * 5 + k) << 3))
}

/** What lies below any hearing is slow to reckon with. */
// @ts-ignore: decorator
@inline
function still(z: v128): v128 {
  return v128.and(z, f64x2.gt(f64x2.abs(z), f64x2.splat(1e-20)))
}

function one(n: i32, samples: i32): void {
  const b0 = coefficient(n, 0)
  const b1 = coefficient(n, 1)
  const b2 = coefficient(n, 2)
  const a1 = coefficient(n, 3)
  const a2 = coefficient(n, 4)
  const state = STATES + (n << 5)
  let z1 = v128.load(state)
  let z2 = v128.load(state, 16)
  for (let at = BOTH, end = BOTH + (<usize>samples << 4); at < end; at += 16) {
    const x = v128.load(at)
    const y = f64x2.add(f64x2.mul(b0, x), z1)
    z1 = f64x2.add(f64x2.sub(f64x2.mul(b1, x), f64x2.mul(a1, y)), z2)
    z2 = f64x2.sub(f64x2.mul(b2, x), f64x2.mul(a2, y))
    v128.store(at, y)
  }
  v128.store(state, still(z1))
  v128.store(state, still(z2), 16)
}

/** Two in one go: while the one waits for what it has just worked out, the other goes on. */
function two(n: i32, samples: i32): void {
  const b0 = coefficient(n, 0)
  const b1 = coefficient(n, 1)
  const b2 = coefficient(n, 2)
  const a1 = coefficient(n, 3)
  const a2 = coefficient(n, 4)
  const d0 = coefficient(n + 1, 0)
  const d1 = coefficient(n + 1, 1)
  const d2 = coefficient(n + 1, 2)
  const c1 = coefficient(n + 1, 3)
  const c2 = coefficient(n + 1, 4)
  const state = STATES + (n << 5)
  let z1 = v128.load(state)
  let z2 = v128.load(state, 16)
  let s1 = v128.load(state, 32)
  let s2 = v128.load(state, 48)
  for (let at = BOTH, end = BOTH + (<usize>samples << 4); at < end; at += 16) {
    const x = v128.load(at)
    const y = f64x2.add(f64x2.mul(b0, x), z1)
    z1 = f64x2.add(f64x2.sub(f64x2.mul(b1, x), f64x2.mul(a1, y)), z2)
    z2 = f64x2.sub(f64x2.mul(b2, x), f64x2.mul(a2, y))
    const out = f64x2.add(f64x2.mul(d0, y), s1)
    s1 = f64x2.add(f64x2.sub(f64x2.mul(d1, y), f64x2.mul(c1, out)), s2)
    s2 = f64x2.sub(f64x2.mul(d2, y), f64x2.mul(c2, out))
    v128.store(at, out)
  }
  v128.store(state, still(z1))
  v128.store(state, still(z2), 16)
  v128.store(state, still(s1), 32)
  v128.store(state, still(s2), 48)
}

/** Runs `count` filters over the first `samples` of the block, one after the other. */
export function filter(count: i32, samples: i32): void {
  for (let i = 0; i < BLOCK; i += 2) {
    const l = f64x2.promote_low_f32x4(v128.load64_zero(LEFT + (i << 2)))
    const r = f64x2.promote_low_f32x4(v128.load64_zero(RIGHT + (i << 2)))
    v128.store(BOTH + (i << 4), v128.shuffle<f64>(l, r, 0, 2))
    v128.store(BOTH + (i << 4), v128.shuffle<f64>(l, r, 1, 3), 16)
  }
  let n = 0
  for (; n + 1 < count; n += 2) two(n, samples)
  if (n < count) one(n, samples)
  for (let i = 0; i < BLOCK; i += 2) {
    const first = v128.load(BOTH + (i << 4))
    const second = v128.load(BOTH + (i << 4), 16)
    const l = f32x4.demote_f64x2_zero(v128.shuffle<f64>(first, second, 0, 2))
    const r = f32x4.demote_f64x2_zero(v128.shuffle<f64>(first, second, 1, 3))
    v128.store64_lane(LEFT + (i << 2), l, 0)
    v128.store64_lane(RIGHT + (i << 2), r, 0)
  }
}
