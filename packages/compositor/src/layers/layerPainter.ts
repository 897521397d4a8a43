import { invert, type Matrix } from '@dusk/timeline'
import type { Engine } from '../engine'
import type { Picture } from '../picture'
import { Halves, type Half } from './halves'
import { resampleTable, type ResampleTable } from './resampleTable'

/** A table with its place in the engine's memory. */
interface LoadedTable extends ResampleTable {
  startsAt: number
  weightsAt: number
}

/** How both axes are sized. */
interface Tables {
  across: LoadedTable
  down: LoadedTable
}

/** A picture at half its size or less, with the tables for what is left to do. */
interface Halved extends Tables, Half {}

/** How many tables are kept. Letters that move have two each, of which one stays the same from frame to frame. */
const KEPT_TABLES = 256

/** Pictures kept as they were sized: a still, and footage slower than the reel, is the same for many frames. */
const KEPT_SHEETS = 4
/** Bytes up to which one is kept. */
const LARGEST_SHEET = 16 * 1024 ** 2

/** Draws pictures over a canvas in the engine's memory, by matrix and opacity. */
export class LayerPainter {
  private readonly tables = new Map<string, LoadedTable | null>()
  private readonly sheets = new Map<string, number>()
  /** Halves that are kept while one picture is drawn many times. */
  private burst: Halves | null = null

  constructor(private readonly engine: Engine) {}

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
    for (const table of this.tables.values()) {
      if (!table) continue
      this.engine.heap.release(table.startsAt)
      this.engine.heap.release(table.weightsAt)
    }
    this.tables.clear()
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
      const from = half ?? { address: picture.address(), width: picture.width, height: picture.height }
      if (across.direct >= 0 && down.direct >= 0) {
        const stride = from.width * 4
        source = { address: from.address + down.direct * stride + across.direct * 4, stride }
      } else {
        sheet = this.resample(from.address, from.width, from.height, across, down)
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
    across: LoadedTable,
    down: LoadedTable,
  ): Halved | null {
    let [w, h, times, level] = [picture.width, picture.height, 1, 0]
    const smaller = (scale: number) => Math.abs(scale) * times * 2 <= 1 + 1 / 1024
    while (smaller(a) && smaller(d) && w % 2 === 0 && h % 2 === 0) {
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

  /** Pixels as two tables size them. @returns the address of memory that is the caller's to release */
  private resample(source: number, width: number, height: number, across: LoadedTable, down: LoadedTable): number {
    const { heap, kernels } = this.engine
    const stride = width * 4
    const columns = across.to - across.from
    const rows = down.to - down.from
    // Only the source rows that are seen are worked on.
    const first = Math.min(...ends(down.starts))
    const last = Math.min(Math.max(...ends(down.starts)) + down.taps, height)
    const middle = heap.allocate((last - first + 1) * columns * 8)
    kernels.resampleColumns(
      source + first * stride,
      stride,
      last - first,
      middle,
      columns,
      across.startsAt,
      across.weightsAt,
      across.taps,
    )
    const sheet = heap.allocate(rows * columns * 4)
    kernels.resampleBand(middle, columns * 8, first, down.startsAt, down.weightsAt, down.taps, sheet, columns, 0, rows)
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

  private table(source: number, scale: number, offset: number, size: number): LoadedTable | null {
    const key = `${source} ${scale} ${offset} ${size}`
    const kept = this.tables.get(key)
    if (kept !== undefined) {
      this.tables.delete(key)
      this.tables.set(key, kept)
      return kept
    }
    const table = resampleTable(source, scale, offset, size)
    let loaded: LoadedTable | null = null
    if (table) {
      const { heap } = this.engine
      const startsAt = heap.allocate(table.starts.byteLength)
      const weightsAt = heap.allocate(table.weights.byteLength)
      heap.words(startsAt, table.starts.length).set(table.starts)
      heap.shorts(weightsAt, table.weights.length).set(table.weights)
      loaded = { ...table, startsAt, weightsAt }
    }
    this.tables.set(key, loaded)
    if (this.tables.size > KEPT_TABLES) {
      const [oldest, old] = this.tables.entries().next().value!
      this.tables.delete(oldest)
      if (old) {
        this.engine.heap.release(old.startsAt)
        this.engine.heap.release(old.weightsAt)
      }
    }
    return loaded
  }
}

function ends(starts: Int32Array): [number, number] {
  return [starts[0]!, starts.at(-1)!]
}
