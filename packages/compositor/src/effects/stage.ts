import type { Engine } from '../engine'
import { blurFine, blurWide, FINE, sharpenPicture } from '../layers/blur'
import type { LayerPainter } from '../layers/layerPainter'
import { Picture } from '../picture'
import type { LutStore } from './colour/lut'
import type { ColourChange } from './define'
import type { NoiseTile } from './tools/noise'

/** Where the picture lies in its sheet, in pixels: the rest is what effects may reach into. */
export interface Bounds {
  x: number
  y: number
  width: number
  height: number
}

/** Entries of a vignette's table. */
const VIGNETTE = 2048

/** What a picture effect draws with. */
export class EffectStage {
  constructor(
    readonly engine: Engine,
    readonly painter: LayerPainter,
    /** What is changed: premultiplied RGBA. */
    readonly picture: Picture,
    readonly bounds: Bounds,
    /** Pixels here per pixel of the reel: lengths in settings are multiplied by it. */
    readonly scale: number,
    /** The owner's time in seconds, for what moves by itself. */
    readonly time: number,
    /** Draw the frames before and after on a sheet, nearest first, as they are without effects. */
    readonly around: readonly ((target: Picture) => void)[],
    private readonly luts: LutStore,
    private readonly noise: NoiseTile,
  ) {}

  get pixels(): number {
    return this.picture.width * this.picture.height
  }

  /** A sheet as large as the picture, empty. The caller releases it. */
  sheet(): Picture {
    const { width, height } = this.picture
    const sheet = Picture.rgba(this.engine, width, height)
    this.engine.kernels.fill(sheet.address(), width * height, 0)
    return sheet
  }

  /** A copy of the picture as it is now. The caller releases it. */
  copy(): Picture {
    const { width, height } = this.picture
    const copy = Picture.rgba(this.engine, width, height)
    copy.pixels().set(this.picture.pixels())
    return copy
  }

  /** Lays a picture on another by a matrix. */
  lay(picture: Picture, matrix: readonly number[], opacity: number, target: Picture): void {
    this.painter.draw(picture, matrix as never, opacity, false, target.address(), target.width, target.height)
  }

  /** Blurs a sheet in place, by standard deviations in pixels. */
  blur(picture: Picture, across: number, down: number): void {
    if (Math.max(across, down) <= FINE) blurFine(this.engine, picture, across, down)
    else blurWide(this.engine, this.painter, picture, across, down, FINE)
  }

  /**
   * Draws the picture sharper: it goes away from a copy whose luma is blurred by a standard deviation in pixels.
   * @param amount 1 doubles the difference; at most 8
   */
  sharpen(sigma: number, amount: number): void {
    sharpenPicture(this.engine, this.painter, this.picture, sigma, amount)
  }

  /**
   * Adds noise to a sheet, strongest in its middle tones.
   * @param size pixels of a grain; `amount` of 255; `colour` 0 grey to 1 coloured
   */
  grain(picture: Picture, seed: number, size: number, amount: number, colour: number): void {
    const { width, height } = picture
    const tile = this.noise.address
    this.engine.kernels.grain(picture.address(), width, 0, height, tile, seed, size, amount, colour)
  }

  /**
   * Darkens (below 0) or lightens the picture outside an ellipse.
   * @param soft half axes beyond it over which that grows; `amount` −1 to 1
   */
  vignette(cx: number, cy: number, rx: number, ry: number, soft: number, amount: number): void {
    const { engine, picture } = this
    const most = (1 + soft) * (1 + soft)
    const table = engine.heap.allocate(VIGNETTE * 2)
    const values = engine.heap.shorts(table, VIGNETTE)
    for (let i = 0; i < VIGNETTE; i++) {
      const t = Math.min(1, Math.max(0, (Math.sqrt((i / (VIGNETTE - 1)) * most) - 1) / soft))
      values[i] = Math.round(t * t * (3 - 2 * t) * Math.abs(amount) * 32_767)
    }
    engine.kernels.vignette(
      ...([picture.address(), picture.width, 0, picture.height, cx, cy, rx, ry] as const),
      ...([table, VIGNETTE, most, amount > 0 ? 1 : 0] as const),
    )
    engine.heap.release(table)
  }

  /** Changes every colour of the picture. @param name says what `change` does: the same name, the same change */
  recolour(name: string, change: ColourChange): void {
    const { picture } = this
    const lut = this.luts.get(name, change)
    this.engine.kernels.lookUp(picture.address(), picture.width, 0, picture.height, lut.address, lut.size, lut.axis)
  }
}
