import {
  multiply,
  scaling,
  type BlendMode,
  type FramePlan,
  type LayerPlan,
  type Matrix,
  type OutputSize,
  type PictureLayer,
  type PlacedLayer,
} from '@dusk/timeline'
import { colourWord } from './colour'
import type { VectorRenderer, Sprite } from './drawing/vectorRenderer'
import { EffectPainter } from './effects/apply'
import type { Cube } from './effects/colour/cube'
import type { Engine } from './engine'
import { FilmPlanes } from './filmPlanes'
import { coversGraded } from './hiddenLayers'
import type { Paint } from './layers/frameStyle'
import { LayerPainter } from './layers/layerPainter'
import { overlayRows, type Rows } from './overlayRows'
import { placeLayer } from './layers/placeLayer'
import { i420Length, Picture, readPlanes, writePlanes } from './picture'
import { Pictures } from './pictures'
import { drawTransition, type StageMemory } from './transitions/draw'
import { MapStore } from './transitions/maps'

/** Draws frames from their plans. The browser's worker and the renderer run this same code on the same kernels. */
export class Compositor {
  private readonly painter: LayerPainter
  private readonly maps: MapStore
  private readonly effects: EffectPainter
  /** What is not drawn at all: film as an encoder takes it. */
  readonly film: FilmPlanes
  private canvas: Picture | null = null
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
    this.film = new FilmPlanes(engine, this.painter, this.effects)
    this.effects.useFiles((hash) => this.cubes.get(hash) ?? null)
  }

  /**
   * Draws a frame.
   * @param pictures the source picture of each of `pictureLayers(plan)`, in that order; one of another size than the
   *   plan says (a proxy) stands for the same picture. A missing one leaves its layer out.
   * @returns opaque pixels at the plan's size; good until the next frame is drawn
   */
  compose(plan: FramePlan, pictures: readonly (Picture | null)[]): Picture {
    const canvas = this.canvasOf(plan)
    this.drawOn(canvas, plan, new Pictures(pictures))
    return canvas
  }

  /**
   * Draws a frame as an encoder takes it: what {@link compose} and {@link toI420} come to, but for their rounding. Film
   * that fills the output stays planes; only the rows that something lies on become pixels.
   * @param pictures as {@link compose} takes them
   * @returns bytes good until the next frame is drawn. @throws {RangeError} for odd sizes
   */
  composeI420(plan: FramePlan, pictures: readonly (Picture | null)[]): Uint8Array<ArrayBuffer> {
    return this.overFilm(plan, pictures) ?? this.toI420(this.compose(plan, pictures))
  }

  private canvasOf({ width, height }: OutputSize): Picture {
    if (this.canvas && (this.canvas.width !== width || this.canvas.height !== height)) {
      this.canvas.release()
      this.canvas = null
    }
    return (this.canvas ??= Picture.rgba(this.engine, width, height))
  }

  /** Planes of a frame whose lowest layer is film that fills it; `null` for any other. */
  private overFilm(plan: FramePlan, list: readonly (Picture | null)[]): Uint8Array<ArrayBuffer> | null {
    const over = plan.layers.slice(1)
    const rows = plan.effects ? null : overlayRows(over, plan.height, (layer) => this.spritesOf(layer, layer.matrix))
    if (!rows) return null
    const pictures = new Pictures(list)
    const film = this.film.lowest(plan, pictures)
    if (film === null) return null
    const { heap } = this.engine
    const length = i420Length(plan.width, plan.height)
    if (over.length === 0) return heap.bytes(film, length)
    const at = this.film.planesOf(length)
    // A film's own planes are those of other frames, too.
    if (film !== at.address) heap.bytes(at.address, length).set(heap.bytes(film, length))
    this.drawRows(plan, rows, pictures, at.address)
    return heap.bytes(at.address, length)
  }

  /** Draws all but the lowest layer over planes, on the rows that they touch. */
  private drawRows(plan: FramePlan, { from, to }: Rows, pictures: Pictures, planes: number): void {
    if (to <= from) return
    const { width, height } = plan
    const canvas = this.canvasOf(plan)
    readPlanes(this.engine, planes, width, height, canvas.address(), from, to)
    const background = plan.background === null ? 0 : colourWord(plan.background)
    for (const layer of plan.layers.slice(1)) this.drawLayer(layer, canvas, pictures, background)
    writePlanes(this.engine, canvas.address() + from * width * 4, planes, width, height, from, to)
  }

  /** Draws a plan over a canvas of its size, taking pictures in the order they are drawn. */
  private drawOn(target: Picture, plan: FramePlan, pictures: Pictures): void {
    const background = plan.background === null ? 0 : colourWord(plan.background)
    const [bottom] = plan.layers
    const hidden = bottom !== undefined && pictures.first !== null && coversGraded(bottom, plan)
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
    if (layer.kind === 'picture') return this.drawPicture(layer, target, pictures)
    const owned: Picture[] = []
    const paint = this.paintOf(layer, target, pictures, background, owned)
    if (paint) this.place(layer, paint, [], target, owned)
    for (const picture of owned) picture.release()
  }

  private drawPicture(given: PictureLayer, target: Picture, pictures: Pictures): void {
    const taken = pictures.take()
    const around = (given.beside ?? []).flatMap(() => pictures.take() ?? [])
    if (!taken) return
    const filling = given.effects && coversGraded(given, target)
    const pixels = target.width * target.height
    // Film that is about as large as the output becomes its pixels in any case: their colours are changed there.
    const there = filling && taken.planesAddress !== null && taken.width * taken.height > LESS * pixels
    const { picture, layer } = there ? { picture: taken, layer: given } : this.effects.graded(taken, given, target)
    const paint = this.paintPicture(picture, layer)
    if (filling && layer.effects) {
      paint(layer.matrix, 1, target)
      const [a, , , d, x, y] = layer.matrix
      this.effects.onCanvas(target, layer.effects, { x, y, width: layer.width * a, height: layer.height * d })
      return
    }
    const owned: Picture[] = []
    const besides = around.map((one) => this.paintPicture(one, layer))
    this.place(layer, paint, besides, target, owned)
    for (const one of owned) one.release()
  }

  private place(layer: PlacedLayer, paint: Paint, around: readonly Paint[], target: Picture, owned: Picture[]): void {
    const drawn = layer.effects ? this.effects.wrap(layer, layer.effects, paint, owned, around) : paint
    placeLayer(this.engine, this.painter, layer, drawn, target)
  }

  /** How a layer's own picture is drawn, or `null` while it is missing. Pictures made for it go to `owned`. */
  private paintOf(
    layer: Exclude<PlacedLayer, PictureLayer>,
    target: Picture,
    pictures: Pictures,
    background: number,
    owned: Picture[],
  ): Paint | null {
    switch (layer.kind) {
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
      default:
        if (!this.drawing) return null
        return (matrix, opacity, canvas) => this.paintSprites(this.spritesOf(layer, matrix), matrix, opacity, canvas)
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

  /** Pieces of a lettered or drawn layer as a matrix sizes it; none while nothing can draw them. */
  private spritesOf(layer: PlacedLayer, matrix: Matrix): readonly Sprite[] {
    const [room, scale] = [this.drawing, scaleOf(matrix)]
    if (!room || !(scale > 0)) return []
    if (layer.kind === 'title') return room.title(layer, scale)
    return layer.kind === 'generator' ? room.generator(layer, scale) : []
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
    const { address, length } = this.film.planesOf(i420Length(width, height))
    writePlanes(this.engine, picture.address(), address, width, height, 0, height)
    return this.engine.heap.bytes(address, length)
  }

  /** Gives back the memory this holds. */
  release(): void {
    this.canvas?.release()
    this.canvas = null
    this.painter.release()
    this.maps.release()
    this.effects.release()
    this.film.release()
  }
}

/** Part of the output's pixels that a film may have at most, for its colours to be changed before it is sized. */
const LESS = 0.6

/** Output pixels per layer pixel, the larger of the two directions. */
function scaleOf([a, b, c, d]: Matrix): number {
  return Math.max(Math.sqrt(a * a + b * b), Math.sqrt(c * c + d * d))
}
