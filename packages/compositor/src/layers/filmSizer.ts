import type { Engine } from '../engine'
import { i420Length, type Picture } from '../picture'
import { planeTable, type PlaneTable } from './resampleTable'
import { TableStore, type LoadedTable } from './tableStore'

/** How one axis of a picture is sized: a stretch of outputs, output = `scale` × source + `offset`. */
export interface SizedAxis {
  from: number
  to: number
  scale: number
  offset: number
}

/**
 * Brings decoded planes to another size as they are, before they become colours: less than half the work of sizing
 * what they become. Chroma keeps its place: with the left luma column, and between two rows.
 */
export class FilmSizer {
  private readonly tables: TableStore<PlaneTable>

  constructor(private readonly engine: Engine) {
    this.tables = new TableStore(engine)
  }

  /**
   * Writes planes of a part of the output to an address, one after the other, where the part's own first pixel is the
   * first: `across.to − across.from` by `down.to − down.from` pixels.
   * @returns `false` for pictures that are not planes
   */
  size(picture: Picture, across: SizedAxis, down: SizedAxis, target: number): boolean {
    const planes = picture.planesAddress
    if (planes === null) return false
    const { width, height } = picture
    const [columns, rows] = [across.to - across.from, down.to - down.from]
    this.plane(planes, width, height, this.luma(width, across), this.luma(height, down), [columns, rows], target)
    const [cw, ch] = [(width + 1) >> 1, (height + 1) >> 1]
    const [x, y] = [this.chroma(cw, across, 0), this.chroma(ch, down, 0.5)]
    const half = [(columns + 1) >> 1, (rows + 1) >> 1] as const
    const [u, out] = [planes + width * height, target + columns * rows]
    this.plane(u, cw, ch, x, y, half, out)
    this.plane(u + cw * ch, cw, ch, x, y, half, out + half[0] * half[1])
    return true
  }

  /** Memory that planes of a part take. */
  static length(across: SizedAxis, down: SizedAxis): number {
    return i420Length(across.to - across.from, down.to - down.from)
  }

  release(): void {
    this.tables.release()
  }

  private luma(samples: number, { from, to, scale, offset }: SizedAxis): LoadedTable<PlaneTable> {
    const centre = (n: number) => (from + n + 0.5 - offset) / scale - 0.5
    return this.table('luma', samples, to - from, { from, to, scale, offset }, centre)
  }

  /** @param between where a sample lies among the two pixels it is for: on the first, 0, or between both, ½ */
  private chroma(samples: number, axis: SizedAxis, between: number): LoadedTable<PlaneTable> {
    const { from, to, scale, offset } = axis
    const centre = (n: number) => ((from + 2 * n + between + 0.5 - offset) / scale - 0.5 - between) / 2
    return this.table(`chroma ${between}`, samples, (to - from + 1) >> 1, axis, centre)
  }

  private table(
    kind: string,
    samples: number,
    count: number,
    { from, scale, offset }: SizedAxis,
    centre: (n: number) => number,
  ): LoadedTable<PlaneTable> {
    const name = `${kind} ${samples} ${count} ${from} ${scale} ${offset}`
    return this.tables.get(name, () => planeTable(samples, count, centre, scale))!
  }

  private plane(
    source: number,
    width: number,
    height: number,
    across: LoadedTable<PlaneTable>,
    down: LoadedTable<PlaneTable>,
    [columns, rows]: readonly [number, number],
    target: number,
  ): void {
    const { heap, kernels } = this.engine
    // Only the source rows that are seen are worked on.
    const first = Math.min(down.starts[0]!, down.starts[rows - 1]!)
    const last = Math.min(Math.max(down.starts[0]!, down.starts[rows - 1]!) + down.taps, height)
    // Taps that weigh nothing may reach a few rows further.
    const middle = heap.allocate((last - first + down.taps) * columns * 2)
    kernels.resamplePlaneColumns(
      source + first * width,
      width,
      last - first,
      middle,
      columns,
      across.at.bases,
      across.at.lanes,
      across.taps,
      across.at.places,
    )
    kernels.resamplePlaneBand(
      middle,
      columns * 2,
      first,
      down.at.starts,
      down.at.weights,
      down.taps,
      target,
      columns,
      0,
      rows,
    )
    heap.release(middle)
  }
}
