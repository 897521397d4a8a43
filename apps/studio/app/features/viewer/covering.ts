import { invert, placeMatrix, type ClipLook, type Fit } from '@dusk/timeline'

interface Size {
  width: number
  height: number
}

/** Parts of a pixel that rounding may leave open at an edge. */
const HAIR = 0.5
/** Largest size that is looked for, in percent. */
const MOST = 1000

/** Whether a picture covers the whole frame of its reel. */
export function covers(look: ClipLook, fit: Fit, picture: Size, format: Size): boolean {
  const back = invert(placeMatrix(look, fit, picture, format))
  if (!back) return false
  const [a, b, c, d, e, f] = back
  return [
    [0, 0],
    [format.width, 0],
    [format.width, format.height],
    [0, format.height],
  ].every(([x, y]) => {
    const [u, v] = [a * x! + c * y! + e, b * x! + d * y! + f]
    const [du, dv] = [HAIR * Math.hypot(a, c), HAIR * Math.hypot(b, d)]
    return u > -du && u < picture.width + du && v > -dv && v < picture.height + dv
  })
}

/**
 * The least size, in percent and tenths of it, from the present one up, with which a picture covers the frame.
 * @returns the present size where none does
 */
export function sizeToCover(look: ClipLook, fit: Fit, picture: Size, format: Size): number {
  const does = (size: number) => covers({ ...look, size }, fit, picture, format)
  if (does(look.size) || !does(MOST)) return look.size
  let [low, high] = [look.size, MOST]
  while (high - low > 0.05) {
    const middle = (low + high) / 2
    if (does(middle)) high = middle
    else low = middle
  }
  return Math.ceil(high * 10) / 10
}
