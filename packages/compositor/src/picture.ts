import { rgbToYuvCoefficients, yuvToRgbCoefficients, type ColourMatrix, type ColourRange } from './colour'
import type { Engine } from './engine'

/** Length in bytes of the three planes of a 4:2:0 picture, one after the other without padding. */
export function i420Length(width: number, height: number): number {
  return width * height + 2 * ((width + 1) >> 1) * ((height + 1) >> 1)
}

/**
 * Writes rows `from` … `to` of a picture's planes as an encoder takes them: 4:2:0, BT.709, limited range.
 * @param pixels address of opaque RGBA, beginning with row `from`
 * @param planes address of the planes of the whole picture. Its size and both rows are even
 */
export function writePlanes(
  { kernels }: Engine,
  pixels: number,
  planes: number,
  width: number,
  height: number,
  from: number,
  to: number,
): void {
  const above = from * width
  const [y, u, quarter] = [planes + above, planes + width * height + above / 4, (width * height) / 4]
  const c = rgbToYuvCoefficients('bt709', 'limited')
  kernels.rgbaToYuv(
    ...([pixels, width, to - from, y, u, u + quarter] as const),
    ...([c.yR, c.yG, c.yB, c.yBias, c.uR, c.uG, c.uB, c.vR, c.vG, c.vB] as const),
  )
}

/**
 * Turns rows `from` … `to` of 4:2:0 planes into opaque RGBA.
 * @param planes address of all three, one after the other
 * @param pixels address of the pixels of the whole picture
 */
export function readPlanes(
  { heap, kernels }: Engine,
  planes: number,
  width: number,
  height: number,
  pixels: number,
  from: number,
  to: number,
  matrix: ColourMatrix = 'bt709',
  range: ColourRange = 'limited',
): void {
  const [cw, ch] = [(width + 1) >> 1, (height + 1) >> 1]
  // Twice what a call needs: in two bands each has its own.
  const row = heap.allocate(4 * (cw + 40))
  const { yOff, yMul, rV, gU, gV, bU } = yuvToRgbCoefficients(matrix, range)
  const u = planes + width * height
  kernels.yuvToRgba(
    ...([planes, width, u, u + cw * ch, cw, width, height, pixels, row] as const),
    ...([yOff, yMul, rV, gU, gV, bU, from, to] as const),
  )
  heap.release(row)
}

let stamps = 0

/**
 * A picture in the engine's memory: 4:2:0 planes as they come from a decoder, or premultiplied RGBA. Planes are turned
 * into RGBA once, when first drawn. Release it when it is no longer needed.
 */
export class Picture {
  private rgba: number | null = null
  private halfRgba: number | null = null
  private content: number | null = null

  private constructor(
    private readonly engine: Engine,
    readonly width: number,
    readonly height: number,
    private planes: number | null,
    private readonly matrix: ColourMatrix,
    private readonly range: ColourRange,
  ) {}

  /** A 4:2:0 picture; write its planes through {@link bytes}. */
  static i420(
    engine: Engine,
    width: number,
    height: number,
    matrix: ColourMatrix = 'bt709',
    range: ColourRange = 'limited',
  ) {
    const picture = new Picture(engine, width, height, engine.heap.allocate(i420Length(width, height)), matrix, range)
    picture.content = ++stamps
    return picture
  }

  /** An RGBA picture; write its pixels through {@link bytes}. */
  static rgba(engine: Engine, width: number, height: number) {
    const picture = new Picture(engine, width, height, null, 'bt709', 'limited')
    picture.rgba = engine.heap.allocate(width * height * 4)
    return picture
  }

  /** An RGBA picture from straight-alpha pixels. */
  static fromStraight(engine: Engine, width: number, height: number, pixels: Uint8Array): Picture {
    const picture = Picture.rgba(engine, width, height)
    picture.bytes().set(pixels)
    engine.kernels.premultiply(picture.rgba!, width * height)
    picture.content = ++stamps
    return picture
  }

  /**
   * A number for what the picture holds, the same for as long as that is unchanged and never given twice; `null` for
   * pictures that are drawn on.
   */
  get stamp(): number | null {
    return this.content
  }

  /** Bytes this picture takes in the engine's memory. */
  get byteLength(): number {
    return (
      (this.planes === null ? 0 : i420Length(this.width, this.height)) +
      (this.rgba === null ? 0 : this.width * this.height * 4) +
      (this.halfRgba === null ? 0 : this.width * this.height)
    )
  }

  /** What the picture was made of: its planes, or its pixels. Good until the engine's memory grows. */
  bytes(): Uint8Array<ArrayBuffer> {
    if (this.planes !== null) return this.engine.heap.bytes(this.planes, i420Length(this.width, this.height))
    return this.pixels()
  }

  /** Its premultiplied RGBA pixels. Good until the engine's memory grows. */
  pixels(): Uint8Array<ArrayBuffer> {
    return this.engine.heap.bytes(this.address(), this.width * this.height * 4)
  }

  /** Address of its RGBA pixels. */
  address(): number {
    if (this.rgba !== null) return this.rgba
    const { width, height } = this
    const rgba = this.engine.heap.allocate(width * height * 4)
    this.colours(this.planes!, width, height, rgba)
    this.rgba = rgba
    return rgba
  }

  /** Address of its planes; `null` for pictures of pixels. */
  get planesAddress(): number | null {
    return this.planes
  }

  /** Turns rows y0 … y1 of planes of any size, whose numbers mean what its own do, into pixels. */
  colours(planes: number, width: number, height: number, target: number, y0 = 0, y1 = height): void {
    readPlanes(this.engine, planes, width, height, target, y0, y1, this.matrix, this.range)
  }

  /**
   * Address of its pixels at half its width and height, worked out from its planes at once: for what is drawn that
   * small a quarter of the work. It does not depend on what was drawn of it before.
   * @returns `null` for pictures without planes, or of an odd size
   */
  half(): number | null {
    const { width, height, planes } = this
    if (planes === null || width % 2 || height % 2) return null
    if (this.halfRgba !== null) return this.halfRgba
    const { heap, kernels } = this.engine
    const [w, h] = [width / 2, height / 2]
    const half = heap.allocate(w * h * 4)
    const c = yuvToRgbCoefficients(this.matrix, this.range)
    const u = planes + width * height
    kernels.yuvToHalfRgba(planes, u, u + w * h, width, half, c.yOff, c.yMul, c.rV, c.gU, c.gV, c.bU, 0, h)
    return (this.halfRgba = half)
  }

  /**
   * Writes its planes at half its width and height to an address, without their becoming colours.
   * Both are multiples of four.
   * @returns `false` for pictures without planes as an encoder takes them: BT.709, limited range
   */
  halfPlanes(address: number): boolean {
    const { width, height, planes } = this
    if (planes === null || !this.fits('bt709', 'limited')) return false
    this.engine.kernels.halvePlanes(planes, width, height, address)
    return true
  }

  /** Whether planes of this kind can be written into it. */
  fits(matrix: ColourMatrix, range: ColourRange): boolean {
    return this.planes !== null && this.matrix === matrix && this.range === range
  }

  /** Says that what it is made of was written anew: pixels made from old planes are dropped. */
  changed(): void {
    this.content = ++stamps
    if (this.planes !== null) this.dropPixels()
  }

  release(): void {
    this.dropPixels()
    if (this.planes !== null) this.engine.heap.release(this.planes)
    this.planes = null
  }

  private dropPixels(): void {
    for (const address of [this.rgba, this.halfRgba]) if (address !== null) this.engine.heap.release(address)
    this.rgba = this.halfRgba = null
  }
}
