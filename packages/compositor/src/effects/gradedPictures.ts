import { LRUCache } from 'lru-cache'
import type { Engine } from '../engine'
import { Picture, writePlanes } from '../picture'
import type { Lut } from './colour/lut'

/** Bytes of changed pictures that are kept: one of a still, or of a frame that is shown again, is made once. */
const KEPT = 128 * 1024 ** 2
/** Bytes that a picture's planes and pixels take, a pixel. */
const BYTES = 6
/** Rows that are worked on together, so that what lies between two steps is still at hand. */
const BAND = 128

/**
 * Source pictures with their colours changed by a table, or as planes, at their own size. Planes stay planes: what
 * fills the output then goes to an encoder without becoming pixels of the output's size.
 */
export class GradedPictures {
  private readonly kept = new LRUCache<string, Picture>({
    maxSize: KEPT,
    maxEntrySize: KEPT / 2,
    sizeCalculation: ({ width, height }) => width * height * BYTES,
    dispose: (picture) => picture.release(),
  })

  constructor(private readonly engine: Engine) {}

  /**
   * A picture by a table; good until the next call.
   * @param name says what is in the table
   * @returns `null` for pictures that are drawn on, those with planes of an odd size, and very large ones
   */
  graded(picture: Picture, name: string, lut: Lut): Picture | null {
    const { width, height, stamp } = picture
    if (stamp === null || width * height * BYTES > KEPT / 2) return null
    if (picture.planesAddress !== null && (width % 2 || height % 2)) return null
    const key = `${stamp} ${name}`
    const known = this.kept.get(key)
    if (known) return known
    const made = picture.planesAddress === null ? this.pixels(picture, lut) : this.planes(picture, lut)
    this.kept.set(key, made)
    return made
  }

  /**
   * An opaque picture as film: its planes, as they come out of an encoder. Good until the next call.
   * @returns `null` for pictures that are drawn on, those of an odd size, and very large ones
   */
  film(picture: Picture): Picture | null {
    const { width, height, stamp } = picture
    if (picture.planesAddress !== null) return picture
    if (stamp === null || width % 2 || height % 2 || width * height * BYTES > KEPT / 2) return null
    const key = `${stamp} film`
    const known = this.kept.get(key)
    if (known) return known
    const made = Picture.i420(this.engine, width, height)
    writePlanes(this.engine, picture.address(), made.planesAddress!, width, height, 0, height)
    this.kept.set(key, made)
    return made
  }

  release(): void {
    this.kept.clear()
  }

  private pixels(picture: Picture, lut: Lut): Picture {
    const { width, height } = picture
    const made = Picture.rgba(this.engine, width, height)
    made.pixels().set(picture.pixels())
    this.engine.kernels.lookUp(made.address(), width, 0, height, lut.address, lut.size, lut.axis)
    made.changed()
    return made
  }

  private planes(picture: Picture, lut: Lut): Picture {
    const { width, height } = picture
    const { heap, kernels } = this.engine
    const made = Picture.i420(this.engine, width, height)
    const pixels = heap.allocate(Math.min(BAND, height) * width * 4)
    for (let from = 0; from < height; from += BAND) {
      const to = Math.min(from + BAND, height)
      // Addressed as if the rows above were there.
      const sheet = pixels - from * width * 4
      picture.colours(picture.planesAddress!, width, height, sheet, from, to)
      kernels.lookUp(sheet, width, from, to, lut.address, lut.size, lut.axis)
      writePlanes(this.engine, pixels, made.planesAddress!, width, height, from, to)
    }
    heap.release(pixels)
    return made
  }
}
