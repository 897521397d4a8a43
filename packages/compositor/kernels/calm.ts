// Smoothing that leaves edges: by how much a pixel's surroundings differ from their mean.
import { loadPixel, storePixel, unit } from './pixel'

/** How far pixels are from their mean, channel by channel. */
export function deviation(src: usize, mean: usize, dst: usize, n: i32): void {
  let i: usize = 0
  for (const end = <usize>(n & ~3) * 4; i < end; i += 16) {
    const a = v128.load(src + i)
    const b = v128.load(mean + i)
    // One of the two is nothing.
    v128.store(dst + i, v128.or(i8x16.sub_sat_u(a, b), i8x16.sub_sat_u(b, a)))
  }
  for (const end = <usize>n * 4; i < end; i += 4)
    storePixel(dst + i, f32x4.abs(f32x4.sub(loadPixel(src + i), loadPixel(mean + i))))
}

/**
 * Goes towards the mean where the surroundings are even, and leaves what stands out: the local filter of J. S. Lee
 * ("Digital image enhancement and noise filtering by use of local statistics", IEEE PAMI-2, 1980) with mean absolute
 * deviations.
 * @param level deviation, 0…255, that counts as noise; `amount` 0…1
 * @param skin 1 works on colours of skin only, 0 on all
 */
export function calm(pixels: usize, mean: usize, spread: usize, n: i32, level: f32, amount: f32, skin: f32): void {
  const noise = f32x4.splat(level * level)
  for (let i: usize = 0, end = <usize>n * 4; i < end; i += 4) {
    const pixel = loadPixel(pixels + i)
    const middle = loadPixel(mean + i)
    const off = loadPixel(spread + i)
    const square = f32x4.mul(off, off)
    // The part of the difference that stays.
    const stays = f32x4.div(square, f32x4.add(square, noise))
    let by = amount
    if (skin > 0) {
      const r = f32x4.extract_lane(middle, 0)
      const g = f32x4.extract_lane(middle, 1)
      const b = f32x4.extract_lane(middle, 2)
      const cr: f32 = 0.5 * r - 0.454 * g - 0.046 * b
      const cb: f32 = 0.5 * b - 0.115 * r - 0.385 * g
      const away = sqrt<f32>((cr - 22) * (cr - 22) + (cb + 16) * (cb + 16))
      by *= 1 - skin + skin * unit(1.8 - away / 14)
    }
    const smooth = f32x4.add(middle, f32x4.mul(f32x4.sub(pixel, middle), stays))
    const out = f32x4.add(pixel, f32x4.mul(f32x4.sub(smooth, pixel), f32x4.splat(by)))
    storePixel(pixels + i, v128.shuffle<i32>(out, pixel, 0, 1, 2, 7))
  }
}

/**
 * Of four neighbourhoods, each `off` pixels away along a diagonal, the mean of the calmest (M. Kuwahara and others,
 * "Processing of RI-angiocardiographic images", 1976), on rows y0 … y1.
 */
export function calmest(mean: usize, spread: usize, dst: usize, w: i32, h: i32, off: i32, y0: i32, y1: i32): void {
  for (let y = y0; y < y1; y++) {
    const up = max(y - off, 0) * w
    const down = min(y + off, h - 1) * w
    for (let x = 0; x < w; x++) {
      const left = max(x - off, 0)
      const right = min(x + off, w - 1)
      let best = up + left
      let least = spreadAt(spread, best)
      let at = up + right
      let s = spreadAt(spread, at)
      if (s < least) {
        least = s
        best = at
      }
      at = down + left
      s = spreadAt(spread, at)
      if (s < least) {
        least = s
        best = at
      }
      at = down + right
      if (spreadAt(spread, at) < least) best = at
      store<u32>(dst + <usize>(y * w + x) * 4, load<u32>(mean + <usize>best * 4))
    }
  }
}

// @ts-ignore: decorator
@inline
function spreadAt(spread: usize, i: i32): i32 {
  const p = spread + <usize>i * 4
  return <i32>load<u8>(p) + <i32>load<u8>(p, 1) + <i32>load<u8>(p, 2)
}

/** Sums that hold a picture once: red, green, blue as floats, and how much they weigh. */
export function beginAlike(pixels: usize, sums: usize, n: i32): void {
  for (let i: usize = 0, end = <usize>n; i < end; i++)
    v128.store(sums + i * 16, f32x4.replace_lane(loadPixel(pixels + i * 4), 3, 1))
}

/**
 * Adds another picture to sums where it is like the one they began with: half as much where it is `level` off.
 */
export function addAlike(pixels: usize, other: usize, sums: usize, n: i32, level: f32): void {
  const per: f32 = 1 / (level * level)
  for (let i: usize = 0, end = <usize>n; i < end; i++) {
    const more = loadPixel(other + i * 4)
    const off = f32x4.sub(loadPixel(pixels + i * 4), more)
    const square = f32x4.mul(off, off)
    const d =
      f32x4.extract_lane(square, 0) +
      f32x4.extract_lane(square, 1) +
      f32x4.extract_lane(square, 2) +
      f32x4.extract_lane(square, 3)
    const t = d * per
    const weight: f32 = 1 / (1 + t * t)
    const p = sums + i * 16
    const taken = f32x4.mul(f32x4.replace_lane(more, 3, 1), f32x4.splat(weight))
    v128.store(p, f32x4.add(v128.load(p), taken))
  }
}

/** Goes towards the weighted mean. @param amount 0…1 */
export function endAlike(sums: usize, pixels: usize, n: i32, amount: f32): void {
  for (let i: usize = 0, end = <usize>n; i < end; i++) {
    const sum = v128.load(sums + i * 16)
    const mean = f32x4.div(sum, v128.shuffle<i32>(sum, sum, 3, 3, 3, 3))
    const p = pixels + i * 4
    const pixel = loadPixel(p)
    const out = f32x4.add(pixel, f32x4.mul(f32x4.sub(mean, pixel), f32x4.splat(amount)))
    storePixel(p, v128.shuffle<i32>(out, pixel, 0, 1, 2, 7))
  }
}
