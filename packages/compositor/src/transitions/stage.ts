import type { Matrix } from '@dusk/timeline'
import { colourParts } from '../colour'
import type { Engine } from '../engine'
import { blurWide } from '../layers/blur'
import type { LayerPainter } from '../layers/layerPainter'
import { Picture } from '../picture'
import type { MapStore, Shape } from './maps'

/** How the border between two pictures looks in a wipe. */
export interface WipeLook {
  /** Width of the soft border as a part of the whole change, percent. */
  softness?: number
  /** How strong a coloured line lies on the border, percent. */
  edge?: number
  edgeColour?: string
}

/** Pixels between the corners of a bending grid. */
const CELL = 16

/**
 * What a transition draws with: the two pictures, as large as the frame and premultiplied, and an empty one to draw on.
 * Pictures made here are given back when the transition is done.
 */
export class Stage {
  private readonly made: Picture[] = []

  constructor(
    readonly engine: Engine,
    private readonly painter: LayerPainter,
    private readonly maps: MapStore,
    readonly from: Picture,
    readonly to: Picture,
    readonly out: Picture,
  ) {}

  get width(): number {
    return this.out.width
  }

  get height(): number {
    return this.out.height
  }

  private get pixels(): number {
    return this.width * this.height
  }

  /** An empty picture of the frame's size. */
  sheet(): Picture {
    const picture = Picture.rgba(this.engine, this.width, this.height)
    this.engine.kernels.fill(picture.address(), this.pixels, 0)
    this.made.push(picture)
    return picture
  }

  /** A copy that may be drawn on. */
  copy(picture: Picture): Picture {
    const copy = Picture.rgba(this.engine, picture.width, picture.height)
    copy.pixels().set(picture.pixels())
    this.made.push(copy)
    return copy
  }

  /** Puts a picture on the output, to be worked on there. */
  begin(picture: Picture): Picture {
    this.out.pixels().set(picture.pixels())
    return this.out
  }

  /** Both pictures mixed, `t` of the second, onto the output or `target`. */
  dissolve(t: number, a = this.from, b = this.to, target = this.out): void {
    const weight = Math.round(Math.min(1, Math.max(0, t)) * 32_768)
    this.engine.kernels.dissolve(a.address(), b.address(), target.address(), this.pixels, weight)
  }

  /** The second picture over the first where a shape was passed. `key` names the shape. */
  wipe(key: string, shape: Shape, t: number, look: WipeLook = {}, a = this.from, b = this.to, target = this.out): void {
    this.mixByMap(this.maps.get(key, this.width, this.height, shape), t, look, a, b, target)
  }

  /** A wipe whose order is a picture's own light: bright first, or with `darkFirst` the other way. */
  wipeByLight(t: number, darkFirst: boolean, look: WipeLook = {}): void {
    const map = this.engine.heap.allocate(this.pixels * 2)
    this.engine.kernels.lightMap(this.from.address(), map, this.pixels, darkFirst ? 0 : 1)
    this.mixByMap(map, t, look, this.from, this.to, this.out)
    this.engine.heap.release(map)
  }

  private mixByMap(map: number, t: number, look: WipeLook, a: Picture, b: Picture, target: Picture): void {
    // Never sharper than about a pixel and a half, so that slanting borders are smooth.
    const soft = Math.max((look.softness ?? 0) / 100, 1.5 / Math.max(this.width, this.height))
    const [r, g, bl] = colourParts(look.edgeColour ?? '#ffffff')
    this.engine.kernels.mixByMap(
      a.address(),
      b.address(),
      map,
      target.address(),
      this.pixels,
      t * (1 + soft),
      1 / soft,
      r,
      g,
      bl,
      (look.edge ?? 0) / 100,
    )
  }

  /** Draws a picture by a matrix over the output or `target`. */
  lay(picture: Picture, matrix: Matrix, opacity = 1, target = this.out): void {
    if (opacity <= 0) return
    const [a, b, c, d, e, f] = matrix
    // A picture that is only moved goes by whole pixels: at the pace of a transition nothing finer is seen.
    const whole: Matrix = a === 1 && b === 0 && c === 0 && d === 1 ? [1, 0, 0, 1, Math.round(e), Math.round(f)] : matrix
    this.painter.draw(picture, whole, Math.min(1, opacity), false, target.address(), target.width, target.height)
  }

  /** Draws a whole picture over the output as it is. */
  put(picture: Picture, opacity = 1, target = this.out): void {
    if (opacity > 0)
      this.engine.kernels.blendRow(
        picture.address(),
        target.address(),
        this.pixels,
        Math.round(Math.min(1, opacity) * 32_768),
      )
  }

  /**
   * Draws a picture bent. `look` says for a place in the output, in pixels, which place of the picture is seen there,
   * and, with a third number, how bright (0 to 1).
   */
  bend(
    picture: Picture,
    look: (x: number, y: number) => readonly [number, number, number?],
    {
      opacity = 1,
      repeat = false,
      target = this.out,
      cell: wanted = CELL,
    }: { opacity?: number; repeat?: boolean; target?: Picture; cell?: number } = {},
  ): void {
    // Large frames are bent by larger cells: what is between them is as small a part of the picture.
    const cell = target.width > 1200 ? wanted * 2 : wanted
    const columns = Math.ceil(target.width / cell) + 1
    const rows = Math.ceil(target.height / cell) + 1
    const { heap, kernels } = this.engine
    const grid = heap.allocate(columns * rows * 12)
    const values = heap.floats(grid, columns * rows * 3)
    for (let j = 0, i = 0; j < rows; j++)
      for (let k = 0; k < columns; k++, i += 3) {
        const [u, v, bright = 1] = look(k * cell, j * cell)
        values[i] = u
        values[i + 1] = v
        values[i + 2] = bright
      }
    kernels.drawMesh(
      picture.address(),
      picture.width,
      picture.height,
      target.address(),
      target.width,
      target.height,
      grid,
      cell,
      columns,
      opacity,
      repeat ? 1 : 0,
      0,
      target.height,
    )
    heap.release(grid)
  }

  /** The average of several drawings: motion, zoom and spin blur. */
  average(count: number, draw: (i: number, target: Picture) => void, target = this.out): void {
    const { heap, kernels } = this.engine
    const sums = heap.allocate(this.pixels * 16)
    kernels.fill(sums, this.pixels * 4, 0)
    const one = this.sheet()
    for (let i = 0; i < count; i++) {
      kernels.fill(one.address(), this.pixels, 0)
      draw(i, one)
      kernels.addUp(one.address(), sums, this.pixels * 4)
    }
    kernels.average(sums, target.address(), this.pixels * 4, count)
    heap.release(sums)
  }

  /** Blurs a picture in place, by standard deviations in pixels. Large ones are worked out on a smaller copy. */
  blur(picture: Picture, across: number, down: number): void {
    blurWide(this.engine, this.painter, picture, across, down)
  }

  /** Adds light of a colour; `amount` 1 is full. Negative amounts darken. */
  light(picture: Picture, colour: string, amount: number): void {
    const [r, g, b] = colourParts(colour)
    this.engine.kernels.addLight(picture.address(), picture.width * picture.height, r * amount, g * amount, b * amount)
  }

  /** Goes towards a colour by a part of the way, 0 to 1. */
  towards(picture: Picture, colour: string, amount: number): void {
    if (amount <= 0) return
    const [r, g, b] = colourParts(colour)
    this.engine.kernels.towards(picture.address(), picture.width * picture.height, r, g, b, Math.min(1, amount))
  }

  /** A rectangle of a picture as a picture of its own, in whole pixels. */
  cut(picture: Picture, x: number, y: number, width: number, height: number): Picture {
    const piece = Picture.rgba(this.engine, width, height)
    this.made.push(piece)
    const { kernels } = this.engine
    kernels.fill(piece.address(), width * height, 0)
    for (let row = 0; row < height; row++)
      kernels.blendRow(
        picture.address() + ((y + row) * picture.width + x) * 4,
        piece.address() + row * width * 4,
        width,
        32_768,
      )
    return piece
  }

  /** A copy with its red and its blue moved, in pixels. */
  splitColours(picture: Picture, red: readonly [number, number], blue: readonly [number, number]): Picture {
    const out = this.sheet()
    const [rx, ry, bx, by] = [...red, ...blue].map(Math.round) as [number, number, number, number]
    this.engine.kernels.shiftColours(picture.address(), out.address(), this.width, this.height, rx, ry, bx, by)
    return out
  }

  /** A copy with each row moved sideways, in pixels. */
  shiftRows(picture: Picture, offset: (row: number) => number): Picture {
    const out = this.sheet()
    const { heap, kernels } = this.engine
    const offsets = heap.allocate(this.height * 4)
    const words = heap.words(offsets, this.height)
    for (let row = 0; row < this.height; row++) words[row] = Math.round(offset(row))
    kernels.shiftRows(picture.address(), out.address(), this.width, this.height, offsets)
    heap.release(offsets)
    return out
  }

  /** A copy in squares of `size` pixels. */
  pixelate(picture: Picture, size: number): Picture {
    const out = this.sheet()
    this.engine.kernels.pixelate(
      picture.address(),
      out.address(),
      this.width,
      this.height,
      Math.max(1, Math.round(size)),
    )
    return out
  }

  /** Gives back what was made on the way. */
  release(): void {
    for (const picture of this.made) picture.release()
    this.made.length = 0
  }
}
