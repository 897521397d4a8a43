import type { Canvas, CanvasKit } from 'canvaskit-wasm'
import type { Engine } from '../engine'
import { Picture } from '../picture'

/** Bytes of drawn pieces that are kept. */
const KEPT = 96 * 1024 ** 2
/** Largest side of a piece in pixels; larger ones are drawn smaller and enlarged. */
const LARGEST = 4096

/** A piece of a layer: its pixels, and the rectangle of the layer that they cover. */
export interface Piece {
  picture: Picture
  x: number
  y: number
  /** Pixels per layer pixel. */
  scale: number
}

/** Draws pieces with CanvasKit into the engine's memory and keeps them by name. */
export class SpriteStore {
  private readonly pieces = new Map<string, Piece | null>()
  private bytes = 0

  constructor(
    private readonly ck: CanvasKit,
    private readonly engine: Engine,
  ) {}

  /**
   * A piece by its name, drawn if it is not there.
   * @param box the layer's rectangle that it covers, in layer pixels
   * @param paint draws in layer pixels
   * @returns `null` for an empty rectangle
   */
  get(
    name: string,
    box: { x: number; y: number; width: number; height: number },
    scale: number,
    paint: (canvas: Canvas) => void,
  ): Piece | null {
    const kept = this.pieces.get(name)
    if (kept !== undefined) {
      this.pieces.delete(name)
      this.pieces.set(name, kept)
      return kept
    }
    const piece = this.draw(box, scale, paint)
    this.pieces.set(name, piece)
    this.bytes += piece?.picture.byteLength ?? 0
    for (const [oldest, old] of this.pieces) {
      if (this.bytes <= KEPT || oldest === name) break
      this.pieces.delete(oldest)
      this.bytes -= old?.picture.byteLength ?? 0
      old?.picture.release()
    }
    return piece
  }

  private draw(
    box: { x: number; y: number; width: number; height: number },
    wanted: number,
    paint: (canvas: Canvas) => void,
  ): Piece | null {
    if (!(box.width > 0) || !(box.height > 0)) return null
    const scale = Math.min(wanted, LARGEST / Math.max(box.width, box.height))
    // On whole output pixels, so that a piece at its own size is laid down as it was drawn.
    const left = Math.floor(box.x * scale)
    const top = Math.floor(box.y * scale)
    const width = Math.max(1, Math.ceil((box.x + box.width) * scale) - left)
    const height = Math.max(1, Math.ceil((box.y + box.height) * scale) - top)
    const { ck } = this
    const surface = ck.MakeSurface(width, height)
    if (!surface) throw new Error(`There is not enough memory to draw ${width} × ${height} pixels.`)
    const canvas = surface.getCanvas()
    canvas.clear(ck.TRANSPARENT)
    canvas.translate(-left, -top)
    canvas.scale(scale, scale)
    paint(canvas)
    surface.flush()
    const pixels = canvas.readPixels(0, 0, {
      width,
      height,
      colorType: ck.ColorType.RGBA_8888,
      alphaType: ck.AlphaType.Premul,
      colorSpace: ck.ColorSpace.SRGB,
    })
    const picture = Picture.rgba(this.engine, width, height)
    if (pixels) picture.bytes().set(pixels as Uint8Array)
    surface.delete()
    return { picture, x: left / scale, y: top / scale, scale }
  }

  release(): void {
    for (const piece of this.pieces.values()) piece?.picture.release()
    this.pieces.clear()
    this.bytes = 0
  }
}
