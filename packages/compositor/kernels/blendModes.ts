// Blend modes of W3C Compositing and Blending Level 1, §§ 9 and 10: co = αs(1 − αb)Cs + αs αb B(Cb, Cs) + (1 − αs)αb
// Cb,
// computed in floating point on premultiplied pixels.
import { alphaFactor, alphaOf, loadPixel, loadTwo, storePixel, storeTwo } from './pixel'

// @ts-ignore: decorator
@inline
function lum(r: f32, g: f32, b: f32): f32 {
  return <f32>0.3 * r + <f32>0.59 * g + <f32>0.11 * b
}

let outR: f32 = 0
let outG: f32 = 0
let outB: f32 = 0

/** SetLum of § 10.2 with its ClipColor; the result is left in out*. */
// @ts-ignore: decorator
@inline
function setLum(r: f32, g: f32, b: f32, l: f32): void {
  const d = l - lum(r, g, b)
  r += d
  g += d
  b += d
  const y = lum(r, g, b)
  const n = min(r, min(g, b))
  const x = max(r, max(g, b))
  if (n < 0) {
    const k = y / (y - n)
    r = y + (r - y) * k
    g = y + (g - y) * k
    b = y + (b - y) * k
  }
  if (x > 1) {
    const k = (<f32>1 - y) / (x - y)
    r = y + (r - y) * k
    g = y + (g - y) * k
    b = y + (b - y) * k
  }
  outR = r
  outG = g
  outB = b
}

/** SetSat of § 10.2; the result is left in out*. */
// @ts-ignore: decorator
@inline
function setSat(r: f32, g: f32, b: f32, s: f32): void {
  const n = min(r, min(g, b))
  const range = max(r, max(g, b)) - n
  const k = range > 0 ? s / range : <f32>0
  outR = (r - n) * k
  outG = (g - n) * k
  outB = (b - n) * k
}

// @ts-ignore: decorator
@inline
function sat(r: f32, g: f32, b: f32): f32 {
  return max(r, max(g, b)) - min(r, min(g, b))
}

// @ts-ignore: decorator
@inline
function pick(mask: v128, yes: v128, no: v128): v128 {
  return v128.bitselect(yes, no, mask)
}

/** B(Cb, Cs) of one mode for the separable ones, all channels at once; colours 0…1. */
// @ts-ignore: decorator
@inline
function separable(mode: i32, b: v128, s: v128): v128 {
  const one = f32x4.splat(1)
  const two = f32x4.splat(2)
  const zero = f32x4.splat(0)
  const half = f32x4.splat(0.5)
  switch (mode) {
    case 1:
      return f32x4.mul(b, s)
    case 2:
      return f32x4.sub(f32x4.add(b, s), f32x4.mul(b, s))
    case 3: {
      const b2 = f32x4.mul(b, two)
      const m = f32x4.sub(b2, one)
      return pick(f32x4.le(b, half), f32x4.mul(s, b2), f32x4.sub(f32x4.add(s, m), f32x4.mul(s, m)))
    }
    case 4:
      return f32x4.pmin(b, s)
    case 5:
      return f32x4.pmax(b, s)
    case 6: {
      const q = f32x4.pmin(one, f32x4.div(b, f32x4.pmax(f32x4.sub(one, s), f32x4.splat(1e-9))))
      return pick(f32x4.le(b, zero), zero, pick(f32x4.ge(s, one), one, q))
    }
    case 7: {
      const q = f32x4.sub(one, f32x4.pmin(one, f32x4.div(f32x4.sub(one, b), f32x4.pmax(s, f32x4.splat(1e-9)))))
      return pick(f32x4.ge(b, one), one, pick(f32x4.le(s, zero), zero, q))
    }
    case 8: {
      const s2 = f32x4.mul(s, two)
      const m = f32x4.sub(s2, one)
      return pick(f32x4.le(s, half), f32x4.mul(b, s2), f32x4.sub(f32x4.add(b, m), f32x4.mul(b, m)))
    }
    case 9: {
      const k = f32x4.sub(f32x4.mul(s, two), one)
      const low = f32x4.add(b, f32x4.mul(f32x4.mul(k, b), f32x4.sub(one, b)))
      const d1 = f32x4.mul(
        f32x4.add(f32x4.mul(f32x4.sub(f32x4.mul(f32x4.splat(16), b), f32x4.splat(12)), b), f32x4.splat(4)),
        b,
      )
      const d = pick(f32x4.le(b, f32x4.splat(0.25)), d1, f32x4.sqrt(b))
      return pick(f32x4.le(s, half), low, f32x4.add(b, f32x4.mul(k, f32x4.sub(d, b))))
    }
    case 10:
      return f32x4.abs(f32x4.sub(b, s))
    default:
      return f32x4.sub(f32x4.add(b, s), f32x4.mul(two, f32x4.mul(b, s)))
  }
}

/** One channel of four pixels as 0…1. */
// @ts-ignore: decorator
@inline
function channel(four: v128, shift: i32): v128 {
  const words = v128.and(i32x4.shr_u(four, shift), i32x4.splat(255))
  return f32x4.mul(f32x4.convert_i32x4_s(words), f32x4.splat(1.0 / 255.0))
}

// @ts-ignore: decorator
@inline
function lum4(r: v128, g: v128, b: v128): v128 {
  return f32x4.add(
    f32x4.add(f32x4.mul(f32x4.splat(0.3), r), f32x4.mul(f32x4.splat(0.59), g)),
    f32x4.mul(f32x4.splat(0.11), b),
  )
}

// @ts-ignore: decorator
@inline
function least(r: v128, g: v128, b: v128): v128 {
  return f32x4.pmin(r, f32x4.pmin(g, b))
}

// @ts-ignore: decorator
@inline
function most(r: v128, g: v128, b: v128): v128 {
  return f32x4.pmax(r, f32x4.pmax(g, b))
}

// @ts-ignore: decorator
@inline
function byte(value: v128): v128 {
  return i32x4.trunc_sat_f32x4_s(f32x4.nearest(f32x4.mul(value, f32x4.splat(255))))
}

// @ts-ignore: decorator
@inline
function aboutLum(c: v128, y: v128, k: v128): v128 {
  return f32x4.add(y, f32x4.mul(f32x4.sub(c, y), k))
}

/** The modes of § 10.2 for four solid pixels, channel by channel: the same steps as one by one. */
function mixHues(s: v128, d: v128, mode: i32): v128 {
  const sr = channel(s, 0)
  const sg = channel(s, 8)
  const sb = channel(s, 16)
  const br = channel(d, 0)
  const bg = channel(d, 8)
  const bb = channel(d, 16)
  const light = mode == 15 ? lum4(sr, sg, sb) : lum4(br, bg, bb)
  let r = mode == 12 || mode == 14 ? sr : br
  let g = mode == 12 || mode == 14 ? sg : bg
  let b = mode == 12 || mode == 14 ? sb : bb
  if (mode < 14) {
    const wanted =
      mode == 12 ? f32x4.sub(most(br, bg, bb), least(br, bg, bb)) : f32x4.sub(most(sr, sg, sb), least(sr, sg, sb))
    const low = least(r, g, b)
    const range = f32x4.sub(most(r, g, b), low)
    const k = v128.and(f32x4.div(wanted, range), f32x4.gt(range, f32x4.splat(0)))
    r = f32x4.mul(f32x4.sub(r, low), k)
    g = f32x4.mul(f32x4.sub(g, low), k)
    b = f32x4.mul(f32x4.sub(b, low), k)
  }
  const lift = f32x4.sub(light, lum4(r, g, b))
  r = f32x4.add(r, lift)
  g = f32x4.add(g, lift)
  b = f32x4.add(b, lift)
  const y = lum4(r, g, b)
  const n = least(r, g, b)
  const x = most(r, g, b)
  const one = f32x4.splat(1)
  const below = f32x4.lt(n, f32x4.splat(0))
  const up = f32x4.div(y, f32x4.sub(y, n))
  r = pick(below, aboutLum(r, y, up), r)
  g = pick(below, aboutLum(g, y, up), g)
  b = pick(below, aboutLum(b, y, up), b)
  const above = f32x4.gt(x, one)
  const down = f32x4.div(f32x4.sub(one, y), f32x4.sub(x, y))
  r = byte(pick(above, aboutLum(r, y, down), r))
  g = byte(pick(above, aboutLum(g, y, down), g))
  b = byte(pick(above, aboutLum(b, y, down), b))
  return v128.or(
    v128.or(clip255(r), i32x4.shl(clip255(g), 8)),
    v128.or(i32x4.shl(clip255(b), 16), i32x4.splat(0xff000000)),
  )
}

// @ts-ignore: decorator
@inline
function clip255(value: v128): v128 {
  return i32x4.min_s(i32x4.max_s(value, i32x4.splat(0)), i32x4.splat(255))
}

/** Mixes solid pixels from `first` on and says where the first other one is. `mode` is known where this is called. */
// @ts-ignore: decorator
@inline
function solidRun(src: usize, dst: usize, first: i32, n: i32, mode: i32): i32 {
  const over = f32x4.splat(1.0 / 255.0)
  let i = first
  for (; i < n; i++) {
    const p = src + <usize>i * 4
    const q = dst + <usize>i * 4
    if ((load<u32>(p) & load<u32>(q)) < 0xff000000) break
    const mixed = separable(mode, f32x4.mul(loadPixel(q), over), f32x4.mul(loadPixel(p), over))
    storePixel(q, f32x4.mul(f32x4.replace_lane(mixed, 3, 1), f32x4.splat(255)))
  }
  return i
}

/** A product of two 8.7 fixed-point values of 0…1. */
// @ts-ignore: decorator
@inline
function times(a: v128, b: v128): v128 {
  return i16x8.q15mulr_sat_s(a, i16x8.add(b, i16x8.shr_u(b, 8)))
}

/**
 * Modes that need no division, on two premultiplied pixels in fixed point: with S = αs Cs and D = αb Cb, multiply is
 * S(1 − αb) + D(1 − αs) + SD, screen S + D − SD, darken and lighten the same with the lesser or greater of Sαb and Dαs
 * in place of SD, difference S + D − 2 min(Sαb, Dαs), exclusion S + D − 2SD; alpha is that of source-over in all.
 */
// @ts-ignore: decorator
@inline
function mixTwo(s: v128, d: v128, mode: i32): v128 {
  const product = times(s, d)
  if (mode == 2) return i16x8.add(s, i16x8.sub(d, product))
  if (mode == 11) {
    const sum = i16x8.add(i16x8.sub(s, product), i16x8.sub(d, product))
    return v128.bitselect(i16x8.add(s, i16x8.sub(d, product)), sum, i16x8(0, 0, 0, -1, 0, 0, 0, -1))
  }
  const byBack = i16x8.q15mulr_sat_s(s, alphaFactor(d))
  const byFront = i16x8.q15mulr_sat_s(d, alphaFactor(s))
  if (mode == 10) {
    const lesser = i16x8.min_s(byBack, byFront)
    const sum = i16x8.add(i16x8.sub(s, lesser), i16x8.sub(d, lesser))
    return v128.bitselect(i16x8.add(s, i16x8.sub(d, product)), sum, i16x8(0, 0, 0, -1, 0, 0, 0, -1))
  }
  const both = mode == 1 ? product : mode == 4 ? i16x8.min_s(byBack, byFront) : i16x8.max_s(byBack, byFront)
  return i16x8.add(i16x8.add(i16x8.sub(s, byBack), i16x8.sub(d, byFront)), both)
}

/**
 * Mixes `n` pixels of `src` into `dst`. `mode` is the place in the list of modes: 1 multiply … 11 exclusion, 12 hue,
 * 13 saturation, 14 color, 15 luminosity, 16 plus-lighter.
 */
export function blendPixels(src: usize, dst: usize, n: i32, mode: i32): void {
  let first = 0
  if (mode == 16)
    // Sums that stop at 255 need no floating point.
    for (; first + 4 <= n; first += 4) {
      const p = dst + <usize>first * 4
      v128.store(p, i8x16.add_sat_u(v128.load(p), v128.load(src + <usize>first * 4)))
    }
  if (mode <= 2 || mode == 4 || mode == 5 || mode == 10 || mode == 11)
    for (; first + 2 <= n; first += 2) {
      const q = dst + <usize>first * 4
      storeTwo(q, mixTwo(loadTwo(src + <usize>first * 4), loadTwo(q), mode))
    }
  const over = f32x4.splat(1.0 / 255.0)
  const full = f32x4.splat(255)
  const one = f32x4.splat(1)
  for (let i = first; i < n; i++) {
    if (mode > 11 && mode < 16 && i + 4 <= n) {
      const four = v128.load(src + <usize>i * 4)
      const under = v128.load(dst + <usize>i * 4)
      if (i32x4.all_true(i32x4.eq(i32x4.shr_u(v128.and(four, under), 24), i32x4.splat(255)))) {
        v128.store(dst + <usize>i * 4, mixHues(four, under, mode))
        i += 3
        continue
      }
    }
    if (mode == 3) i = solidRun(src, dst, i, n, 3)
    else if (mode == 6) i = solidRun(src, dst, i, n, 6)
    else if (mode == 7) i = solidRun(src, dst, i, n, 7)
    else if (mode == 8) i = solidRun(src, dst, i, n, 8)
    else if (mode == 9) i = solidRun(src, dst, i, n, 9)
    if (i >= n) break
    const p = src + <usize>i * 4
    if (load<u8>(p + 3) == 0) continue
    const q = dst + <usize>i * 4
    const s = f32x4.mul(loadPixel(p), over)
    const d = f32x4.mul(loadPixel(q), over)
    if (mode == 16) {
      storePixel(q, f32x4.mul(f32x4.pmin(f32x4.add(s, d), one), full))
      continue
    }
    const as = alphaOf(s)
    const ab = alphaOf(d)
    // Where both are solid, colours are what they are and the mix is the result.
    const solid = load<u8>(p + 3) == 255 && load<u8>(q + 3) == 255
    if (load<u8>(q + 3) == 0) {
      storePixel(q, f32x4.mul(s, full))
      continue
    }
    const cs = solid ? s : f32x4.div(s, as)
    const cb = solid ? d : f32x4.div(d, ab)
    let mixed: v128
    if (mode < 12) mixed = separable(mode, cb, cs)
    else {
      const sr = f32x4.extract_lane(cs, 0)
      const sg = f32x4.extract_lane(cs, 1)
      const sb = f32x4.extract_lane(cs, 2)
      const br = f32x4.extract_lane(cb, 0)
      const bg = f32x4.extract_lane(cb, 1)
      const bb = f32x4.extract_lane(cb, 2)
      if (mode == 12) {
        setSat(sr, sg, sb, sat(br, bg, bb))
        setLum(outR, outG, outB, lum(br, bg, bb))
      } else if (mode == 13) {
        setSat(br, bg, bb, sat(sr, sg, sb))
        setLum(outR, outG, outB, lum(br, bg, bb))
      } else if (mode == 14) setLum(sr, sg, sb, lum(br, bg, bb))
      else setLum(br, bg, bb, lum(sr, sg, sb))
      mixed = f32x4(outR, outG, outB, 1)
    }
    if (solid) {
      storePixel(q, f32x4.mul(f32x4.replace_lane(mixed, 3, 1), full))
      continue
    }
    const inside = f32x4.mul(f32x4.mul(as, ab), mixed)
    const sum = f32x4.add(f32x4.add(f32x4.mul(s, f32x4.sub(one, ab)), inside), f32x4.mul(d, f32x4.sub(one, as)))
    const alpha = f32x4.sub(f32x4.add(as, ab), f32x4.mul(as, ab))
    storePixel(q, f32x4.mul(f32x4.replace_lane(sum, 3, f32x4.extract_lane(alpha, 0)), full))
  }
}
