import {
  halvedLayer,
  multiply,
  scaling,
  type FramePlan,
  type Matrix,
  type PictureLayer,
  type PlacedLayer,
  type TransitionLayer,
} from '@dusk/timeline'
import type { EffectPainter } from './effects/apply'
import type { Engine } from './engine'
import { coversGraded } from './hiddenLayers'
import type { LayerPainter } from './layers/layerPainter'
import { i420Length, type Picture } from './picture'
import type { Pictures } from './pictures'
import { progressOf } from './transitions/draw'

/** Makes planes of film that fills the output, as an encoder takes them, without their becoming pixels. */
export class FilmPlanes {
  private planes: { address: number; length: number } | null = null

  constructor(
    private readonly engine: Engine,
    private readonly painter: LayerPainter,
    private readonly effects: EffectPainter,
  ) {}

  /**
   * Planes of a plan's lowest layer: a film that fills the output, or a dissolve between two.
   * @param pictures those of the plan; its own are taken
   * @returns their address, the film's own or {@link planesOf} the output; `null` where they are made otherwise
   */
  lowest(plan: FramePlan, pictures: Pictures): number | null {
    const [bottom] = plan.layers
    if (!bottom || plan.width % 2 || plan.height % 2) return null
    return bottom.kind === 'transition' ? this.dissolved(bottom, plan, pictures) : this.film(bottom, plan, pictures)
  }

  /** @returns `null` for what is not film, or does not fill the output */
  private film(given: PlacedLayer, plan: FramePlan, pictures: Pictures): number | null {
    if (given.kind !== 'picture' || given.beside || !coversGraded(given, plan)) return null
    const taken = pictures.take()
    if (!taken) return null
    const { picture: own, layer } = this.effects.graded(taken, given, plan)
    const picture = keepsColours(layer) ? this.effects.film(own) : own
    if (layer.effects || !picture?.fits('bt709', 'limited')) return null
    const { width, height } = plan
    const same = picture.width === width && picture.height === height
    if (same && layer.width === width && layer.height === height && isSame(layer.matrix)) return picture.planesAddress
    const sized =
      picture.width === layer.width && halvedLayer({ ...plan, layers: [layer] })
        ? this.half(picture)
        : this.sized(picture, layer, width, height)
    return sized && this.planes!.address
  }

  /** Two films that dissolve: mixed as they are, which is what mixing their colours comes to. */
  private dissolved({ from, to, ...change }: TransitionLayer, plan: FramePlan, pictures: Pictures): number | null {
    const { heap, kernels } = this.engine
    const length = i420Length(plan.width, plan.height)
    if (change.transition !== 'dissolve' || !from || !to || length % 4) return null
    const first = this.film(from, plan, pictures)
    if (first === null) return null
    // Both may be made in the one place.
    const before = heap.allocate(length)
    heap.bytes(before, length).set(heap.bytes(first, length))
    const second = this.film(to, plan, pictures)
    const { address } = this.planesOf(length)
    const weight = Math.round(progressOf({ ...change, from, to }) * 32_768)
    if (second !== null) kernels.dissolve(before, second, address, length / 4, weight)
    heap.release(before)
    return second === null ? null : address
  }

  /**
   * Planes of a picture at half its size, as an encoder takes them, for what is shown that small and otherwise
   * untouched: what drawing it would come to, but for its rounding.
   * @returns bytes good until the next frame is drawn; `null` where the picture's own planes don't allow it
   */
  half(picture: Picture): Uint8Array<ArrayBuffer> | null {
    const { width, height } = picture
    if (width % 4 || height % 4) return null
    const at = this.planesOf(i420Length(width / 2, height / 2))
    return picture.halfPlanes(at.address) ? this.engine.heap.bytes(at.address, at.length) : null
  }

  /**
   * Planes of a film that fills the output at a size of its own and is otherwise untouched, as an encoder takes them:
   * what a compositor turns into colours.
   * @returns bytes good until the next frame is drawn; `null` where it is not drawn from its planes
   */
  sized(picture: Picture, layer: PictureLayer, width: number, height: number): Uint8Array<ArrayBuffer> | null {
    if (width % 2 || height % 2) return null
    const at = this.planesOf(i420Length(width, height))
    const matrix = multiply(layer.matrix, scaling(layer.width / picture.width, layer.height / picture.height))
    const own = picture.width === layer.width && picture.height === layer.height ? layer.matrix : matrix
    return this.painter.filmPlanes(picture, own, width, height, at.address)
      ? this.engine.heap.bytes(at.address, at.length)
      : null
  }

  /** Memory for planes of a length, good until others are asked for. */
  planesOf(length: number): { address: number; length: number } {
    if (this.planes?.length !== length) {
      if (this.planes) this.engine.heap.release(this.planes.address)
      this.planes = { address: this.engine.heap.allocate(length), length }
    }
    return this.planes
  }

  release(): void {
    if (this.planes) this.engine.heap.release(this.planes.address)
    this.planes = null
  }
}

/** Largest scale at which a still is sized as planes: their chroma, of half its size, is as fine as the output's. */
const FINE = 1.25
const keepsColours = ({ matrix: [a, , , d] }: PictureLayer) => a <= FINE && d <= FINE

const isSame = ([a, b, c, d, e, f]: Matrix) => a === 1 && b === 0 && c === 0 && d === 1 && e === 0 && f === 0
