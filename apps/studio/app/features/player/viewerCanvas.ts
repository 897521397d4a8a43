import { drawZebra, scopesOf, type Picture, type Scopes } from '@dusk/compositor'
import type { Looking } from './messages'

/** Milliseconds between two counts: at least twelve a second are wanted, more are not seen. */
const COUNT_EVERY = 60

/** The canvas of the viewer: pictures go onto it with what is wanted over them, and are counted. */
export class ViewerCanvas {
  /** What is wanted beside the picture. */
  looking: Looking = { scopes: false, zebra: false, bareTo: null }
  private readonly context: OffscreenCanvasRenderingContext2D
  private image: ImageData | null = null
  private countedAt = 0

  /** @param counted hears what was counted of a picture; its buffers may be given away */
  constructor(
    private readonly canvas: OffscreenCanvas,
    private readonly counted: (scopes: Scopes) => void,
  ) {
    this.context = canvas.getContext('2d', { alpha: false, desynchronized: true })!
  }

  /**
   * Shows a picture, as large as it is.
   * @param bare draws the same frame without effects; the picture need not be good any more then
   */
  paint(picture: Picture, bare: () => Picture): void {
    const { width, height } = picture
    this.resize(width, height)
    const drawn = this.imageOf(picture)
    const now = performance.now()
    if (this.looking.scopes && now - this.countedAt >= COUNT_EVERY) {
      this.countedAt = now
      this.counted(scopesOf(drawn.data, width, height))
    }
    if (this.looking.bareTo !== null) {
      const pixels = bare().pixels()
      const columns = Math.round(this.looking.bareTo * width) * 4
      for (let y = 0; y < height; y++) {
        const row = y * width * 4
        drawn.data.set(pixels.subarray(row, row + columns), row)
      }
    }
    if (this.looking.zebra) drawZebra(drawn.data, width, height)
    this.context.putImageData(drawn, 0, 0)
  }

  /** An empty canvas of a size, for pictures side by side. */
  clear(width: number, height: number): void {
    this.resize(width, height)
    this.context.clearRect(0, 0, width, height)
  }

  /** Puts one of several pictures onto it. */
  put(picture: Picture, x: number, y: number): void {
    this.context.putImageData(this.imageOf(picture), x, y)
  }

  private resize(width: number, height: number): void {
    if (this.canvas.width === width && this.canvas.height === height) return
    this.canvas.width = width
    this.canvas.height = height
  }

  /** Pixels as the canvas takes them: it can't read memory that two threads share, so they are copied. */
  private imageOf(picture: Picture): ImageData {
    if (this.image?.width !== picture.width || this.image.height !== picture.height)
      this.image = new ImageData(picture.width, picture.height)
    this.image.data.set(picture.pixels())
    return this.image
  }
}
