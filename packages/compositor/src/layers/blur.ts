import { exp } from '@dusk/timeline'
import type { Engine } from '../engine'
import { Picture } from '../picture'
import type { LayerPainter } from './layerPainter'

/**
 * Radii of three box blurs whose sum of squares is nearest to a Gaussian of standard deviation `sigma` pixels
 * (Wells, "Efficient synthesis of Gaussian filters by cascaded uniform filters", IEEE PAMI-8, 1986).
 */
export function boxRadii(sigma: number): [number, number, number] {
  const ideal = Math.sqrt(4 * sigma * sigma + 1)
  const low = Math.max(0, Math.floor((ideal - 1) / 2))
  const width = 2 * low + 1
  const m = Math.round((12 * sigma * sigma - 3 * width * width - 12 * width - 9) / (-4 * width - 4))
  return [0, 1, 2].map((i) => (i < m ? low : low + 1)) as [number, number, number]
}

/**
 * Blurs a picture in place.
 * @param across standard deviation along rows in pixels, `down` along columns; 0 leaves that direction alone
 */
export function blurPicture(engine: Engine, picture: Picture, across: number, down: number): void {
  const { heap, kernels } = engine
  const { width, height } = picture
  const address = picture.address()
  const other = heap.allocate(width * height * 4)
  const sums = heap.allocate(width * 16)
  let [from, to] = [address, other]
  const swap = () => ([from, to] = [to, from])
  if (across > 0.2)
    for (const radius of boxRadii(across)) {
      if (radius === 0) continue
      kernels.blurRows(from, to, width, height, radius)
      swap()
    }
  if (down > 0.2)
    for (const radius of boxRadii(down)) {
      if (radius === 0) continue
      kernels.blurColumns(from, to, width, height, radius, sums)
      swap()
    }
  if (from !== address) heap.bytes(address, width * height * 4).set(heap.bytes(from, width * height * 4))
  heap.release(other)
  heap.release(sums)
}

/** Standard deviation above which a blur is worked out on a copy of half the size. */
const WIDE = 4

/** Standard deviation in pixels up to which a blur is one filter each way. */
export const FINE = 2.4

/** Neighbours on each side that the kernels can weigh, and the weights that they are given. */
const TAPS = 6

/** Weights of a Gaussian as the kernels take them: of 32768, the middle, then twice each neighbour's. */
function gaussianWeights(sigma: number): { radius: number; weights: number[] } {
  const reach = Math.min(TAPS, Math.max(1, Math.ceil(sigma * 2.5)))
  const parts = Array.from({ length: reach + 1 }, (_, k) => (k === 0 ? 1 : 2) * exp(-(k * k) / (2 * sigma * sigma)))
  const sum = parts.reduce((a, b) => a + b)
  const weights = parts.map((part) => Math.round((part / sum) * 32_768))
  // An even surface stays as it is: what rounding left over goes to the middle.
  weights[0] = Math.min(weights[0]! + 32_768 - weights.reduce((a, b) => a + b), 32_767)
  return { radius: Math.ceil(reach / 2) * 2, weights: Object.assign(Array<number>(TAPS + 1).fill(0), weights) }
}

/** {@link blurPicture} for narrow blurs, up to {@link FINE}: a Gaussian in one go each way. */
export function blurFine(engine: Engine, picture: Picture, across: number, down: number): void {
  const { heap, kernels } = engine
  const { width, height } = picture
  const address = picture.address()
  const other = heap.allocate(width * height * 4)
  const list = heap.allocate((TAPS + 1) * 2)
  let [from, to] = [address, other]
  if (across > 0.2) {
    const { radius, weights } = gaussianWeights(across)
    heap.shorts(list, weights.length).set(weights)
    kernels.filterRows(from, to, width, height, list, radius)
    ;[from, to] = [to, from]
  }
  if (down > 0.2) {
    const { radius, weights } = gaussianWeights(down)
    heap.shorts(list, weights.length).set(weights)
    kernels.filterColumns(from, to, width, height, list, radius, 0, height)
    ;[from, to] = [to, from]
  }
  if (from !== address) heap.bytes(address, width * height * 4).set(heap.bytes(from, width * height * 4))
  heap.release(other)
  heap.release(list)
}

/**
 * Draws a picture sharper in place: it goes away from a copy whose luma is blurred by `sigma` pixels.
 * @param amount 1 doubles the difference; at most 8
 */
export function sharpenPicture(
  engine: Engine,
  painter: LayerPainter,
  picture: Picture,
  sigma: number,
  amount: number,
): void {
  if (amount <= 0) return
  const { heap, kernels } = engine
  const { width, height } = picture
  const pixels = width * height
  const address = picture.address()
  const plane = heap.allocate(pixels)
  kernels.lumaPlane(address, plane, pixels)
  if (sigma <= FINE) {
    const rows = heap.allocate(pixels * 2)
    const list = heap.allocate((TAPS + 1) * 2)
    const { radius, weights } = gaussianWeights(sigma)
    heap.shorts(list, weights.length).set(weights)
    kernels.planeRows(plane, rows, width, height, list, radius)
    kernels.sharpenLuma(address, plane, rows, width, height, list, radius, amount, 0, height)
    heap.release(rows)
    heap.release(list)
  } else {
    const soft = Picture.rgba(engine, width, height)
    soft.pixels().set(picture.pixels())
    blurWide(engine, painter, soft, sigma, sigma, FINE)
    const blurred = heap.allocate(pixels)
    kernels.lumaPlane(soft.address(), blurred, pixels)
    kernels.sharpenFrom(address, plane, blurred, pixels, amount)
    heap.release(blurred)
    soft.release()
  }
  heap.release(plane)
}

/**
 * What is left to blur on a copy `shrink` times smaller. Making it smaller averages that many pixels (variance
 * (n² − 1) / 12), enlarging it again goes straight between them (n² / 6, and by twos (n² − 1) / 4): variances add up.
 */
function sigmaOnSmall(sigma: number, shrink: number, byTwos: boolean): number {
  if (shrink === 1) return sigma
  const square = shrink * shrink
  const enlarging = byTwos ? (square - 1) / 4 : square / 6
  return Math.sqrt(sigma * sigma - (square - 1) / 12 - enlarging) / shrink
}

/** {@link blurPicture} for any width: large ones are worked out on a smaller copy, which looks the same. */
export function blurWide(
  engine: Engine,
  painter: LayerPainter,
  picture: Picture,
  across: number,
  down: number,
  wide = WIDE,
): void {
  if (Math.max(across, down) <= 0.2) return
  // Each direction by itself: what is smeared along rows keeps its sharp edges across them.
  const less = (sigma: number) => {
    let shrink = 1
    while (sigma / shrink > (shrink === 1 ? wide : WIDE) && shrink < 16) shrink *= 2
    return shrink
  }
  const [lessX, lessY] = [less(across), less(down)]
  const { width, height } = picture
  const byTwos = lessX === lessY && width % lessX === 0 && height % lessX === 0
  const [sigmaX, sigmaY] = [sigmaOnSmall(across, lessX, byTwos), sigmaOnSmall(down, lessY, byTwos)]
  const blur = Math.max(sigmaX, sigmaY) <= FINE ? blurFine : blurPicture
  if (byTwos) return onSmall(engine, picture, lessX, (small) => blur(engine, small, sigmaX, sigmaY))
  const small = Picture.rgba(engine, Math.ceil(width / lessX), Math.ceil(height / lessY))
  const lay = (from: Picture, to: Picture, x: number, y: number) => {
    engine.kernels.fill(to.address(), to.width * to.height, 0)
    painter.draw(from, [x, 0, 0, y, 0, 0], 1, false, to.address(), to.width, to.height)
  }
  lay(picture, small, small.width / width, small.height / height)
  blur(engine, small, sigmaX, sigmaY)
  lay(small, picture, width / small.width, height / small.height)
  small.release()
}

/** Lets something be done to a copy that is `shrink` times smaller, 2 or a power of it, in place of the picture. */
function onSmall(engine: Engine, picture: Picture, shrink: number, work: (small: Picture) => void): void {
  if (shrink === 1) return work(picture)
  const { width, height } = picture
  const half = Picture.rgba(engine, width / 2, height / 2)
  engine.kernels.halve(picture.address(), width, height, half.address())
  onSmall(engine, half, shrink / 2, work)
  engine.kernels.enlarge(half.address(), half.width, half.height, picture.address(), 0, height)
  half.release()
}
