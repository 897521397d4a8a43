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
const WIDE = 6

/** Standard deviation of one pass of five taps. */
const PASS = 1.1

/** {@link blurPicture} for narrow blurs: a Gaussian of five taps, as often as it takes; variances add up. */
export function blurFine(engine: Engine, picture: Picture, across: number, down: number): void {
  const { heap, kernels } = engine
  const { width, height } = picture
  const address = picture.address()
  const other = heap.allocate(width * height * 4)
  let [from, to] = [address, other]
  for (const [sigma, way] of [
    [across, 0],
    [down, 1],
  ] as const) {
    if (sigma <= 0.2) continue
    const passes = Math.max(1, Math.ceil((sigma / PASS) * (sigma / PASS)))
    const variance = (sigma * sigma) / passes
    const [near, far] = [exp(-0.5 / variance), exp(-2 / variance)]
    const sum = 1 + 2 * near + 2 * far
    for (let i = 0; i < passes; i++) {
      const weights = [near, far].map((weight) => Math.round(((2 * weight) / sum) * 32_768)) as [number, number]
      kernels.blurFive(from, to, width, height, way, ...weights)
      ;[from, to] = [to, from]
    }
  }
  if (from !== address) heap.bytes(address, width * height * 4).set(heap.bytes(from, width * height * 4))
  heap.release(other)
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
  const largest = Math.max(across, down)
  if (largest <= 0.2) return
  let shrink = 1
  while (largest / shrink > (shrink === 1 ? wide : WIDE) && shrink < 16) shrink *= 2
  if (shrink === 1) return blurPicture(engine, picture, across, down)
  const { width, height } = picture
  const small = Picture.rgba(engine, Math.ceil(width / shrink), Math.ceil(height / shrink))
  const lay = (from: Picture, to: Picture, x: number, y: number) => {
    engine.kernels.fill(to.address(), to.width * to.height, 0)
    painter.draw(from, [x, 0, 0, y, 0, 0], 1, false, to.address(), to.width, to.height)
  }
  lay(picture, small, small.width / width, small.height / height)
  blurPicture(engine, small, across / shrink, down / shrink)
  lay(small, picture, width / small.width, height / small.height)
  small.release()
}
