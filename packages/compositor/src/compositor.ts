import {
  covers,
  multiply,
  scaling,
  type BlendMode,
  type FramePlan,
  type LayerPlan,
  type Matrix,
  type PictureLayer,
  type PlacedLayer,
} from '@dusk/timeline'
import { colourWord, rgbToYuvCoefficients } from './colour'
import type { VectorRenderer, Sprite } from './drawing/vectorRenderer'
import { EffectPainter } from './effects/apply'
import type { Cube } from './effects/colour/cube'
import type { Engine } from './engine'
import type { Paint } from './layers/frameStyle'
import { LayerPainter } from './layers/layerPainter'
import { placeLayer } from './layers/placeLayer'
import { i420Length, Picture } from './picture'
import { drawTransition, type StageMemory } from './transitions/draw'
import { MapStore } from './transitions/maps'

/** Pictures in the order in which a plan's layers are drawn. */
class Pictures {
  private at = 0

  constructor(private readonly list: readonly (Picture | null)[]) {}

  /** The one that comes next. */
  get first(): Picture | null {
    return this.list[this.at] ?? null
  }

  take(): Picture | null {
    return this.list[this.at++] ?? null
  }
}

/** Draws frames from their plans. The browser's worker and the renderer run this same code on the same kernels. */
export class Compositor {
  private readonly painter: LayerPainter
  private readonly maps: MapStore
  private readonly effects: EffectPainter
  /** How the frames around a layer's own are drawn, for effects that weigh them. */
  private readonly beside = new WeakMap<PlacedLayer, Paint[]>()
  private canvas: Picture | null = null
  private planes: { address: number; length: number } | null = null
  /** Draws words and shapes; layers of those kinds are left out while there is none. */
  drawing: VectorRenderer | null = null

  /** Tables of colours that effects name, by the hash of their file; those that are missing change nothing. */
  readonly cubes = new Map<string, Cube>()

  /**
   * Whether what is shown only while one works (a key's matte) is drawn: for a viewer, never for a finished picture.
   */
  get inspecting(): boolean {
    return this.effects.inspecting
  }
  set inspecting(on: boolean) {
    this.effects.inspecting = on
  }

  constructor(readonly engine: Engine) {
    this.painter = new LayerPainter(engine)
    this.maps = new MapStore(engine)
    this.effects = new EffectPainter(engine, this.painter)
    this.effects.useFiles((hash) => this.cubes.get(hash) ?? null)
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
    this.drawOn(this.canvas, plan, new Pictures(pictures))
    return this.canvas
  }

  /** Draws a plan over a canvas of its size, taking pictures in the order they are drawn. */
  private drawOn(target: Picture, plan: FramePlan, pictures: Pictures): void {
    const background = plan.background === null ? 0 : colourWord(plan.background)
    const [bottom] = plan.layers
    const hidden = bottom?.kind === 'picture' && pictures.first !== null && covers(bottom, plan)
    if (!hidden) this.engine.kernels.fill(target.address(), plan.width * plan.height, background)
    for (const layer of plan.layers) this.drawLayer(layer, target, pictures, background)
    if (plan.effects) this.effects.onCanvas(target, plan.effects)
  }

  private drawLayer(layer: LayerPlan, target: Picture, pictures: Pictures, background: number): void {
    if (layer.kind !== 'transition') {
      this.drawPlaced(layer, target, pictures, background)
      return
    }
    const memory: StageMemory = { engine: this.engine, painter: this.painter, maps: this.maps }
    const { kernels } = this.engine
    const pixels = target.width * target.height
    const blends = [layer.from, layer.to].flatMap((side) => (side ? [side.blend ?? 'normal'] : []))
    const alike = blends.every((blend) => blend === blends[0])
    const blend = alike && blends[0] !== 'normal' ? (blends[0] as Exclude<BlendMode, 'normal'>) : undefined
    const side = (of: PlacedLayer | null): Picture => {
      const sheet = Picture.rgba(this.engine, target.width, target.height)
      // Clips that mix with what is beneath in different ways can only be compared by what they make of it.
      if (!alike) sheet.pixels().set(target.pixels())
      else kernels.fill(sheet.address(), pixels, 0)
      if (!of) return sheet
      if (of.kind === 'backdrop') {
        // What lies beneath is taken from the canvas itself, and laid down anew on the reel's ground.
        sheet.pixels().set(target.pixels())
        this.drawPlaced(alike ? { ...of, blend: undefined } : of, sheet, pictures, background)
      } else this.drawPlaced(alike ? { ...of, blend: undefined } : of, sheet, pictures, 0)
      return sheet
    }
    const from = side(layer.from)
    const to = side(layer.to)
    drawTransition(memory, layer, from, to, target, blend)
    from.release()
    to.release()
  }

  private drawPlaced(layer: PlacedLayer, target: Picture, pictures: Pictures, background: number): void {
    const owned: Picture[] = []
    const paint = this.paintOf(layer, target, pictures, background, owned)
    if (paint) {
      const around = this.beside.get(layer) ?? []
      const drawn = layer.effects ? this.effects.wrap(layer, layer.effects, paint, owned, around) : paint
      placeLayer(this.engine, this.painter, layer, drawn, target)
    }
    for (const picture of owned) picture.release()
  }

  /** How a layer's own picture is drawn, or `null` while it is missing. Pictures made for it go to `owned`. */
  private paintOf(
    layer: PlacedLayer,
    target: Picture,
    pictures: Pictures,
    background: number,
    owned: Picture[],
  ): Paint | null {
    switch (layer.kind) {
      case 'picture': {
        const picture = pictures.take()
        const around = (layer.beside ?? []).map(() => pictures.take())
        if (layer.effects)
          this.beside.set(
            layer,
            around.flatMap((one) => (one ? this.paintPicture(one, layer) : [])),
          )
        return picture ? this.paintPicture(picture, layer) : null
      }
      case 'reel': {
        const inner = Picture.rgba(this.engine, layer.plan.width, layer.plan.height)
        owned.push(inner)
        this.drawOn(inner, layer.plan, pictures)
        return this.paintPicture(inner, layer)
      }
      case 'backdrop': {
        const copy = Picture.rgba(this.engine, target.width, target.height)
        owned.push(copy)
        copy.pixels().set(target.pixels())
        this.engine.kernels.fill(target.address(), target.width * target.height, background)
        return this.paintPicture(copy, layer)
      }
      default: {
        const room = this.drawing
        if (!room) return null
        return (matrix, opacity, canvas) => {
          const scale = scaleOf(matrix)
          if (!(scale > 0)) return
          this.paintSprites(
            layer.kind === 'title' ? room.title(layer, scale) : room.generator(layer, scale),
            matrix,
            opacity,
            canvas,
          )
        }
      }
    }
  }

  private paintPicture(picture: Picture, layer: PlacedLayer): Paint {
    const { width, height, alpha } = layer
    const own =
      picture.width === width && picture.height === height
        ? null
        : scaling(width / picture.width, height / picture.height)
    return (matrix, opacity, canvas) =>
      this.painter.draw(
        picture,
        own ? multiply(matrix, own) : matrix,
        opacity,
        !alpha,
        canvas.address(),
        canvas.width,
        canvas.height,
      )
  }

  private paintSprites(sprites: readonly Sprite[], matrix: Matrix, opacity: number, canvas: Picture): void {
    for (const { picture, matrix: own, opacity: part } of sprites)
      if (part > 0)
        this.painter.draw(
          picture,
          multiply(matrix, own),
          opacity * part,
          false,
          canvas.address(),
          canvas.width,
          canvas.height,
        )
  }

  /**
   * Planes of an opaque picture for an encoder: 4:2:0, BT.709, limited range, one after the other.
   * @returns bytes good until the next frame is drawn. @throws {RangeError} for odd sizes
   */
  toI420(picture: Picture): Uint8Array<ArrayBuffer> {
    const { width, height } = picture
    if (width % 2 || height % 2) throw new RangeError(`4:2:0 needs even sizes, not ${width} × ${height}.`)
    const { heap, kernels } = this.engine
    const { address: y, length } = this.planesOf(i420Length(width, height))
    const u = y + width * height
    const v = u + (width * height) / 4
    const c = rgbToYuvCoefficients('bt709', 'limited')
    kernels.rgbaToYuv(
      picture.address(),
      width,
      height,
      y,
      u,
      v,
      c.yR,
      c.yG,
      c.yB,
      c.yBias,
      c.uR,
      c.uG,
      c.uB,
      c.vR,
      c.vG,
      c.vB,
    )
    return heap.bytes(y, length)
  }

  /**
   * Planes of a picture at half its size, as an encoder takes them, for what is shown that small and otherwise
   * untouched: what {@link compose} and {@link toI420} would come to, but for their rounding.
   * @returns bytes good until the next frame is drawn; `null` where the picture's own planes don't allow it
   */
  halfI420(picture: Picture): Uint8Array<ArrayBuffer> | null {
    const { width, height } = picture
    if (width % 4 || height % 4) return null
    const at = this.planesOf(i420Length(width / 2, height / 2))
    return picture.halfPlanes(at.address) ? this.engine.heap.bytes(at.address, at.length) : null
  }

  /**
   * Planes of a film that fills the output at a size of its own and is otherwise untouched, as an encoder takes them:
   * what {@link compose} turns into colours.
   * @returns bytes good until the next frame is drawn; `null` where it is not drawn from its planes
   */
  sizedI420(picture: Picture, layer: PictureLayer, width: number, height: number): Uint8Array<ArrayBuffer> | null {
    if (width % 2 || height % 2) return null
    const at = this.planesOf(i420Length(width, height))
    const matrix = multiply(layer.matrix, scaling(layer.width / picture.width, layer.height / picture.height))
    const own = picture.width === layer.width && picture.height === layer.height ? layer.matrix : matrix
    return this.painter.filmPlanes(picture, own, width, height, at.address)
      ? this.engine.heap.bytes(at.address, at.length)
      : null
  }

  /** Memory for planes of a length. */
  private planesOf(length: number): { address: number; length: number } {
    if (this.planes?.length !== length) {
      if (this.planes) this.engine.heap.release(this.planes.address)
      this.planes = { address: this.engine.heap.allocate(length), length }
    }
    return this.planes
  }

  /** Gives back the memory this holds. */
  release(): void {
    this.canvas?.release()
    this.canvas = null
    this.painter.release()
    this.maps.release()
    this.effects.release()
    if (this.planes) this.engine.heap.release(this.planes.address)
    this.planes = null
  }
}

/** Output pixels per layer pixel, the larger of the two directions. */
function scaleOf([a, b, c, d]: Matrix): number {
  return Math.max(Math.sqrt(a * a + b * b), Math.sqrt(c * c + d * d))
}
