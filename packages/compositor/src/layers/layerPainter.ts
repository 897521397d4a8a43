import { invert, type Matrix } from '@dusk/timeline'
import type { Engine } from '../engine'
import type { Picture } from '../picture'
import { FilmSizer, type SizedAxis } from './filmSizer'
import { Halves, type Half } from './halves'
import { LEAST_PLANE_SCALE, resampleTable, type ResampleTable } from './resampleTable'
import { TableStore, type LoadedTable } from './tableStore'

type Loaded = LoadedTable<ResampleTable>

/** How both axes are sized. */
interface Tables {
  across: Loaded
  down: Loaded
}

/** A picture at half its size or less, with the tables for what is left to do. */
interface Halved extends Tables, Half {}

/** Pictures kept as they were sized: a still, and footage slower than the reel, is the same for many frames. */
const KEPT_SHEETS = 4
/** Bytes up to which one is kept. */
const LARGEST_SHEET = 16 * 1024 ** 2

/** Draws pictures over a canvas in the engine's memory, by matrix and opacity. */
export class LayerPainter {
  private readonly tables: TableStore<ResampleTable>
  private readonly films: FilmSizer
  private readonly sheets = new Map<string, number>()
  /** Halves that are kept while one picture is drawn many times. */
  private burst: Halves | null = null

  constructor(private readonly engine: Engine) {
    this.tables = new TableStore(engine)
    this.films = new FilmSizer(engine)
  }

  /**
   * @param matrix from the picture's pixels to the canvas's
   * @param opacity 0 to 1
   * @param opaque the picture has no transparency, so that it can be copied where nothing mixes
   */
  draw(
    picture: Picture,
    matrix: Matrix,
    opacity: number,
    opaque: boolean,
    canvas: number,
    width: number,
    height: number,
  ): void {
    const [a, b, c, d] = matrix
    const halves = this.burst ?? new Halves(this.engine)
    if (b === 0 && c === 0 && a !== 0 && d !== 0)
      this.drawUpright(picture, halves, matrix, opacity, opaque, canvas, width, height)
    else this.drawTurned(picture, halves, matrix, opacity, canvas, width, height)
    if (!this.burst) halves.release()
  }

  /** Draws the same pictures many times in a row: what is made of them on the way is made once. */
  together(draw: () => void): void {
    if (this.burst) return draw()
    this.burst = new Halves(this.engine)
    try {
      draw()
    } finally {
      this.burst.release()
      this.burst = null
    }
  }

  /** Gives back the memory of its tables. */
  release(): void {
    this.tables.release()
    this.films.release()
    for (const sheet of this.sheets.values()) this.engine.heap.release(sheet)
    this.sheets.clear()
  }

  private drawUpright(
    picture: Picture,
    halves: Halves,
    [a, , , d, e, f]: Matrix,
    opacity: number,
    opaque: boolean,
    canvas: number,
    width: number,
    height: number,
  ) {
    const { heap, kernels } = this.engine
    const own = { across: this.table(picture.width, a, e, width), down: this.table(picture.height, d, f, height) }
    if (!own.across || !own.down) return
    const columns = own.across.to - own.across.from
    const rows = own.down.to - own.down.from
    const direct = own.across.direct >= 0 && own.down.direct >= 0
    if (opaque && opacity === 1 && columns === width && rows === height && isWhole(own.across) && isWhole(own.down))
      if (this.fill(picture, own as Tables, [a, 0, 0, d, e, f], direct, canvas)) return
    const name =
      direct || picture.stamp === null || rows * columns * 4 > LARGEST_SHEET
        ? null
        : `${picture.stamp} ${a} ${d} ${e} ${f} ${width} ${height}`
    let sheet = name === null ? undefined : this.sheets.get(name)
    let source: { address: number; stride: number } | null =
      sheet === undefined ? null : { address: sheet, stride: columns * 4 }
    let half: Halved | null = null
    if (!source) {
      half = direct ? null : this.halved(picture, halves, [a, 0, 0, d, e, f], width, height, own.across, own.down)
      const { across, down } = half ?? (own as Tables)
      // Worked out only where it is needed: film that is sized becomes colours afterwards.
      const from = (): Half => half ?? { address: picture.address(), width: picture.width, height: picture.height }
      if (across.direct >= 0 && down.direct >= 0) {
        const { address, width: own } = from()
        source = { address: address + (down.direct * own + across.direct) * 4, stride: own * 4 }
      } else {
        sheet =
          (half ? null : this.sizeFilm(picture, across, down, [a, 0, 0, d, e, f])) ??
          this.resample(from(), across, down)
        source = { address: sheet, stride: columns * 4 }
      }
    }
    kernels.layRect(
      source.address,
      source.stride,
      canvas + (own.down.from * width + own.across.from) * 4,
      width * 4,
      columns,
      rows,
      opacity,
      own.across.coverFirst,
      own.across.coverLast,
      own.down.coverFirst,
      own.down.coverLast,
      opaque ? 1 : 0,
      0,
      rows,
    )
    if (sheet === undefined) return
    if (name) this.keepSheet(name, sheet)
    else heap.release(sheet)
  }

  /**
   * The same for a picture that is drawn at half its size or less: it is halved by averages of four until less than
   * that is left to do, which costs a fraction and looks the same. Not where a side is odd: its last pixel would count
   * twice.
   * @returns `null` where that does not apply
   */
  private halved(
    picture: Picture,
    halves: Halves,
    [a, , , d, e, f]: Matrix,
    width: number,
    height: number,
    across: Loaded,
    down: Loaded,
  ): Halved | null {
    let [w, h, times, level] = [picture.width, picture.height, 1, 0]
    while (isHalf(a * times) && isHalf(d * times) && w % 2 === 0 && h % 2 === 0) {
      ;[w, h, times, level] = [w / 2, h / 2, times * 2, level + 1]
    }
    if (level === 0) return null
    const own = (scale: number) => {
      const now = scale * times
      return Math.abs(Math.abs(now) - 1) < 1e-5 ? Math.sign(now) : now
    }
    const columns = this.table(w, own(a), e, width)
    const rows = this.table(h, own(d), f, height)
    if (columns?.from === across.from && columns.to === across.to && rows?.from === down.from && rows.to === down.to)
      return { ...halves.at(picture, level), across: columns, down: rows }
    return null
  }

  /**
   * A film that hides all there is on a canvas becomes colours there, and is not laid down once more.
   * @returns whether it was drawn
   */
  private fill(picture: Picture, tables: Tables, matrix: Matrix, direct: boolean, canvas: number): boolean {
    const planes = picture.planesAddress
    if (planes === null) return false
    if (!direct) return this.sizeFilm(picture, tables.across, tables.down, matrix, canvas) !== null
    const { across, down } = tables
    const same = across.to === picture.width && down.to === picture.height
    if (same) picture.colours(planes, picture.width, picture.height, canvas)
    return same
  }

  /**
   * Planes of a film, sized as they are and then turned into pixels.
   * @param target where they go; without it to memory that is the caller's to release
   * @returns the address of the pixels; `null` for pictures that are not planes, and sizes that are made otherwise
   */
  private sizeFilm(
    picture: Picture,
    across: Loaded,
    down: Loaded,
    [a, , , d, e, f]: Matrix,
    target?: number,
  ): number | null {
    if (picture.planesAddress === null || !sizesPlanes(a, d)) return null
    const { heap } = this.engine
    const axes = [axis(across, a, e), axis(down, d, f)] as const
    const planes = heap.allocate(FilmSizer.length(...axes))
    this.films.size(picture, ...axes, planes)
    const [columns, rows] = [across.to - across.from, down.to - down.from]
    const sheet = target ?? heap.allocate(rows * columns * 4)
    picture.colours(planes, columns, rows, sheet)
    heap.release(planes)
    return sheet
  }

  /**
   * Planes of a film as it fills a canvas at a size of its own, for an encoder.
   * @returns `false` where it is not sized that way: by whole pixels, at half its size or less, or no film at all
   */
  filmPlanes(picture: Picture, matrix: Matrix, width: number, height: number, target: number): boolean {
    const [a, b, c, d, e, f] = matrix
    if (b !== 0 || c !== 0 || a <= 0 || d <= 0 || !picture.fits('bt709', 'limited')) return false
    const [across, down] = [this.table(picture.width, a, e, width), this.table(picture.height, d, f, height)]
    if (!across || !down || across.to - across.from !== width || down.to - down.from !== height) return false
    if ((across.direct >= 0 && down.direct >= 0) || !sizesPlanes(a, d)) return false
    return this.films.size(picture, axis(across, a, e), axis(down, d, f), target)
  }

  /** Pixels as two tables size them. @returns the address of memory that is the caller's to release */
  private resample({ address, width, height }: Half, across: Loaded, down: Loaded): number {
    const { heap, kernels } = this.engine
    const stride = width * 4
    const columns = across.to - across.from
    const rows = down.to - down.from
    // Only the source rows that are seen are worked on.
    const first = Math.min(...ends(down.starts))
    const last = Math.min(Math.max(...ends(down.starts)) + down.taps, height)
    const middle = heap.allocate((last - first + 1) * columns * 8)
    kernels.resampleColumns(
      address + first * stride,
      stride,
      last - first,
      middle,
      columns,
      across.at.starts,
      across.at.weights,
      across.taps,
    )
    const sheet = heap.allocate(rows * columns * 4)
    kernels.resampleBand(
      middle,
      columns * 8,
      first,
      down.at.starts,
      down.at.weights,
      down.taps,
      sheet,
      columns,
      0,
      rows,
    )
    heap.release(middle)
    return sheet
  }

  private keepSheet(name: string, sheet: number): void {
    this.sheets.delete(name)
    this.sheets.set(name, sheet)
    if (this.sheets.size <= KEPT_SHEETS) return
    const [oldest, old] = this.sheets.entries().next().value!
    this.sheets.delete(oldest)
    this.engine.heap.release(old)
  }

  private drawTurned(
    picture: Picture,
    halves: Halves,
    matrix: Matrix,
    opacity: number,
    canvas: number,
    width: number,
    height: number,
  ): void {
    const back = invert(matrix)
    if (!back) return
    const [a, b, c, d, e, f] = matrix
    const corners = [
      [0, 0],
      [picture.width, 0],
      [0, picture.height],
      [picture.width, picture.height],
    ].map(([x, y]) => [a * x! + c * y! + e, b * x! + d * y! + f] as const)
    const [xs, ys] = [corners.map(([x]) => x), corners.map(([, y]) => y)]
    const x0 = Math.max(Math.floor(Math.min(...xs)) - 1, 0)
    const y0 = Math.max(Math.floor(Math.min(...ys)) - 1, 0)
    const x1 = Math.min(Math.ceil(Math.max(...xs)) + 1, width)
    const y1 = Math.min(Math.ceil(Math.max(...ys)) + 1, height)
    if (x1 <= x0 || y1 <= y0) return

    let [w, h, sizeU, sizeV, shrink, level] = [picture.width, picture.height, picture.width, picture.height, 1, 0]
    const [ia, ib, ic, id, ie, iff] = back
    // Halved until at most about two source pixels fall on an output pixel.
    const step = Math.max(Math.sqrt(ia * ia + ib * ib), Math.sqrt(ic * ic + id * id))
    while (step / shrink > 2 && w > 1 && h > 1) {
      ;[w, h, level] = [(w + 1) >> 1, (h + 1) >> 1, level + 1]
      ;[sizeU, sizeV, shrink] = [sizeU / 2, sizeV / 2, shrink * 2]
    }
    const per = (x: number, y: number) => shrink / Math.sqrt(x * x + y * y)
    this.engine.kernels.drawAffine(
      halves.at(picture, level).address,
      w,
      h,
      canvas,
      width,
      x0,
      y0,
      x1,
      y1,
      ia / shrink,
      ib / shrink,
      ic / shrink,
      id / shrink,
      ie / shrink,
      iff / shrink,
      per(ia, ic),
      per(ib, id),
      sizeU,
      sizeV,
      opacity,
    )
  }

  private table(source: number, scale: number, offset: number, size: number): Loaded | null {
    return this.tables.get(`${source} ${scale} ${offset} ${size}`, () => resampleTable(source, scale, offset, size))
  }
}

/** Whether a picture reaches over the whole of its first and last output. */
const isWhole = ({ coverFirst, coverLast }: ResampleTable) => coverFirst === 1 && coverLast === 1

/** Whether planes can be sized by these scales: less than that is rare, and pixels are halved first. */
const sizesPlanes = (...scales: number[]) =>
  scales.every((scale) => Math.abs(scale) >= LEAST_PLANE_SCALE) && !scales.every(isHalf)

/** Whether a scale is a half or less. */
const isHalf = (scale: number) => Math.abs(scale) * 2 <= 1 + 1 / 1024

const axis = ({ from, to }: ResampleTable, scale: number, offset: number): SizedAxis => ({ from, to, scale, offset })

function ends(starts: Int32Array): [number, number] {
  return [starts[0]!, starts.at(-1)!]
}
