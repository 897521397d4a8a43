import type { Engine } from '../engine'
import { blurWide } from '../layers/blur'
import type { LayerPainter } from '../layers/layerPainter'
import { Picture } from '../picture'
import type { LutStore } from './colour/lut'
import type { ColourChange } from './define'

/** Where the picture lies in its sheet, in pixels: the rest is what effects may reach into. */
export interface Bounds {
  x: number
  y: number
  width: number
  height: number
}

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
    private readonly luts: LutStore,
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
    blurWide(this.engine, this.painter, picture, across, down)
  }

  /** Changes every colour of the picture. @param name says what `change` does: the same name, the same change */
  recolour(name: string, change: ColourChange): void {
    const { picture } = this
    const lut = this.luts.get(name, change)
    this.engine.kernels.lookUp(picture.address(), picture.width, 0, picture.height, lut.address, lut.size, lut.axis)
  }
}
