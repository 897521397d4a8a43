import { multiply, scaling, type FramePlan } from '@dusk/timeline'
import { colourWord, rgbToYuvCoefficients } from './colour'
import { LayerPainter } from './drawLayer'
import type { Engine } from './engine'
import { i420Length, Picture } from './picture'

/** Draws frames from their plans. The browser's worker and the renderer run this same code on the same kernels. */
export class Compositor {
  private readonly painter: LayerPainter
  private canvas: Picture | null = null
  private planes: { address: number; length: number } | null = null

  constructor(readonly engine: Engine) {
    this.painter = new LayerPainter(engine)
  }

  /**
   * Draws a frame.
   * @param pictures the source picture of each of `pictureLayers(plan)`, in that order; one of another size than the
   *   plan says (a proxy) stands for the same picture. A missing one leaves its layer out.
   * @returns opaque pixels at the plan's size; good until the next frame is drawn
   */
  compose(plan: FramePlan, pictures: readonly (Picture | null)[]): Picture {
    const { width, height } = plan
    if (this.canvas && (this.canvas.width !== width || this.canvas.height !== height)) {
      this.canvas.release()
      this.canvas = null
    }
    this.canvas ??= Picture.rgba(this.engine, width, height)
    this.drawOn(this.canvas, plan, pictures[Symbol.iterator]())
    return this.canvas
  }

  /** Draws a plan over a canvas of its size, taking pictures in the order they are drawn. */
  private drawOn(target: Picture, plan: FramePlan, pictures: Iterator<Picture | null>): void {
    const { width, height } = plan
    const canvas = target.address()
    this.engine.kernels.fill(canvas, width * height, plan.background === null ? 0 : colourWord(plan.background))
    for (const layer of plan.layers) {
      if (layer.kind === 'reel') {
        const inner = Picture.rgba(this.engine, layer.plan.width, layer.plan.height)
        this.drawOn(inner, layer.plan, pictures)
        this.painter.draw(inner, layer.matrix, layer.opacity, false, canvas, width, height)
        inner.release()
        continue
      }
      const picture = pictures.next().value as Picture | null | undefined
      if (!picture) continue
      const same = picture.width === layer.width && picture.height === layer.height
      const matrix = same
        ? layer.matrix
        : multiply(layer.matrix, scaling(layer.width / picture.width, layer.height / picture.height))
      this.painter.draw(picture, matrix, layer.opacity, !layer.alpha, canvas, width, height)
    }
  }

  /**
   * Planes of an opaque picture for an encoder: 4:2:0, BT.709, limited range, one after the other.
   * @returns bytes good until the next frame is drawn. @throws {RangeError} for odd sizes
   */
  toI420(picture: Picture): Uint8Array<ArrayBuffer> {
    const { width, height } = picture
    if (width % 2 || height % 2) throw new RangeError(`4:2:0 needs even sizes, not ${width} × ${height}.`)
    const length = i420Length(width, height)
    const { heap, kernels } = this.engine
    if (this.planes?.length !== length) {
      if (this.planes) heap.release(this.planes.address)
      this.planes = { address: heap.allocate(length), length }
    }
    const y = this.planes.address
    const u = y + width * height
    const v = u + (width * height) / 4
    const c = rgbToYuvCoefficients('bt709', 'limited')
    kernels.rgbaToYuv(
      picture.address(), width, height, y, u, v, c.yR, c.yG, c.yB, c.yBias, c.uR, c.uG, c.uB, c.vR, c.vG, c.vB,
    ) // prettier-ignore
    return heap.bytes(y, length)
  }

  /** Gives back the memory this holds. */
  release(): void {
    this.canvas?.release()
    this.canvas = null
    this.painter.release()
    if (this.planes) this.engine.heap.release(this.planes.address)
    this.planes = null
  }
}
