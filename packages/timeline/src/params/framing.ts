import type { Fit } from '../document/reel'
import { fitMatrix } from '../evaluate/layerPlan'
import type { Animated, Point } from './animated'
import type { Ease } from './ease'
import type { Params } from './spec'

interface Size {
  width: number
  height: number
}

/** A part of a picture as parts of its width and height; its middle and how wide it is. The height follows the reel. */
export interface ViewRect {
  x: number
  y: number
  width: number
}

/** Position (reel pixels) and size (percent) with which a part of a picture fills the reel. */
export function fillWith(rect: ViewRect, picture: Size, format: Size, fit: Fit): { position: Point; size: number } {
  const [sx, , , sy] = fitMatrix(picture.width, picture.height, format.width, format.height, fit)
  const size = (format.width / (rect.width * picture.width * sx)) * 100
  const round = (value: number) => Math.round(value * 100) / 100
  return {
    position: [
      round(((0.5 - rect.x) * picture.width * sx * size) / 100),
      round(((0.5 - rect.y) * picture.height * sy * size) / 100),
    ],
    size: round(size),
  }
}

/** The part of a picture that fills the reel with a position and a size: the counterpart of {@link fillWith}. */
export function viewOf(position: Point, size: number, picture: Size, format: Size, fit: Fit): ViewRect {
  const [sx, , , sy] = fitMatrix(picture.width, picture.height, format.width, format.height, fit)
  const scale = size / 100
  return {
    x: 0.5 - position[0] / (picture.width * sx * scale),
    y: 0.5 - position[1] / (picture.height * sy * scale),
    width: format.width / (picture.width * sx * scale),
  }
}

/** The widest part of a picture's own shape that fills the reel without showing its edges. */
export function widestView(picture: Size, format: Size): number {
  const aspect = format.width / format.height
  return Math.min(1, (picture.height * aspect) / picture.width)
}

/** Keyframes that go from one part of a picture to another over a clip. */
export function panAndZoom(
  from: ViewRect,
  to: ViewRect,
  clip: { head: number; length: number },
  picture: Size,
  format: Size,
  fit: Fit,
  ease: Ease = 'both',
): Params {
  const [a, b] = [fillWith(from, picture, format, fit), fillWith(to, picture, format, fit)]
  const keys = <T extends number | Point>(first: T, last: T): Animated<T> => ({
    keys: [
      { at: clip.head, value: first, ease },
      { at: clip.head + clip.length, value: last, ease },
    ],
  })
  return { position: keys<Point>(a.position, b.position) as Animated, size: keys(a.size, b.size) }
}

/** Ready-made moves over a picture, as parts of the widest view: where they begin and where they end. */
export const PICTURE_MOVES = [
  { id: 'driftIn', name: 'Drift in', from: [0, 0, 1], to: [0, 0, 0.8] },
  { id: 'driftOut', name: 'Drift out', from: [0, 0, 0.8], to: [0, 0, 1] },
  { id: 'sweepLeft', name: 'Sweep left', from: [1, 0, 0.82], to: [-1, 0, 0.82] },
  { id: 'sweepRight', name: 'Sweep right', from: [-1, 0, 0.82], to: [1, 0, 0.82] },
  { id: 'lift', name: 'Lift', from: [0, 1, 0.82], to: [0, -1, 0.82] },
  { id: 'sinkDown', name: 'Sink', from: [0, -1, 0.82], to: [0, 1, 0.82] },
  { id: 'risingTide', name: 'Rising tide', from: [-1, 1, 0.8], to: [1, -1, 0.8] },
  { id: 'ebb', name: 'Ebb', from: [1, -1, 0.8], to: [-1, 1, 0.8] },
  { id: 'closer', name: 'Closer, to the left', from: [0, 0, 1], to: [-1, 0, 0.7] },
  { id: 'closerRight', name: 'Closer, to the right', from: [0, 0, 1], to: [1, 0, 0.7] },
] as const satisfies {
  id: string
  name: string
  from: readonly [number, number, number]
  to: readonly [number, number, number]
}[]
export type PictureMove = (typeof PICTURE_MOVES)[number]

/** A ready-made move's ends on a picture: −1…1 goes from one edge to the other, the width is part of the widest. */
export function moveViews(move: PictureMove, picture: Size, format: Size): [ViewRect, ViewRect] {
  const widest = widestView(picture, format)
  const place = ([x, y, part]: readonly [number, number, number]): ViewRect => {
    const width = widest * part
    const height = (width * picture.width * format.height) / (format.width * picture.height)
    return { x: 0.5 + (x * (1 - width)) / 2, y: 0.5 + (y * (1 - height)) / 2, width }
  }
  return [place(move.from), place(move.to)]
}

/** A cell of a split screen, as parts of the frame. */
export interface Cell {
  x: number
  y: number
  width: number
  height: number
}

const rows = (...counts: number[]): Cell[] =>
  counts.flatMap((count, row) =>
    Array.from({ length: count }, (_, i) => ({
      x: i / count,
      y: row / counts.length,
      width: 1 / count,
      height: 1 / counts.length,
    })),
  )
const turned = (cells: readonly Cell[]): Cell[] =>
  cells.map(({ x, y, width, height }) => ({ x: y, y: x, width: height, height: width }))

/** Split screens for two to nine pictures. */
export const LAYOUTS: readonly { id: string; name: string; cells: readonly Cell[] }[] = [
  { id: 'sideBySide', name: 'Side by side', cells: rows(2) },
  { id: 'oneAbove', name: 'One above the other', cells: turned(rows(2)) },
  {
    id: 'inTheCorner',
    name: 'In the corner',
    cells: [
      { x: 0, y: 0, width: 1, height: 1 },
      { x: 0.66, y: 0.64, width: 0.31, height: 0.31 },
    ],
  },
  { id: 'threeColumns', name: 'Three columns', cells: rows(3) },
  { id: 'threeRows', name: 'Three rows', cells: turned(rows(3)) },
  {
    id: 'largeAndTwo',
    name: 'Large and two',
    cells: [
      { x: 0, y: 0, width: 2 / 3, height: 1 },
      { x: 2 / 3, y: 0, width: 1 / 3, height: 0.5 },
      { x: 2 / 3, y: 0.5, width: 1 / 3, height: 0.5 },
    ],
  },
  { id: 'fourSquares', name: 'Four squares', cells: rows(2, 2) },
  {
    id: 'largeAndThree',
    name: 'Large and three',
    cells: [
      { x: 0, y: 0, width: 0.75, height: 1 },
      ...[0, 1, 2].map((i) => ({ x: 0.75, y: i / 3, width: 0.25, height: 1 / 3 })),
    ],
  },
  { id: 'fourColumns', name: 'Four columns', cells: rows(4) },
  { id: 'twoAndThree', name: 'Two and three', cells: rows(2, 3) },
  { id: 'sixSquares', name: 'Six', cells: rows(3, 3) },
  { id: 'threeAndFour', name: 'Three and four', cells: rows(3, 4) },
  { id: 'eight', name: 'Eight', cells: rows(4, 4) },
  { id: 'nine', name: 'Nine', cells: rows(3, 3, 3) },
]

/** How cells look. Lengths are reel pixels. */
export interface CellLook {
  gap: number
  cornerRadius: number
  border: number
  borderColour: string
}

/**
 * Settings with which a picture fills a cell: as large as it needs to be, what juts out cropped.
 * @param pan which part of a picture of another shape is seen: −1…1 from one edge to the other
 */
export function cellParams(
  cell: Cell,
  look: CellLook,
  picture: Size,
  format: Size,
  fit: Fit,
  pan: Point = [0, 0],
): Params {
  const whole = cell.width > 0.999 && cell.height > 0.999
  const inset = whole ? 0 : look.gap / 2
  const [x, y] = [cell.x * format.width + inset, cell.y * format.height + inset]
  const [w, h] = [cell.width * format.width - 2 * inset, cell.height * format.height - 2 * inset]
  const [sx, , , sy] = fitMatrix(picture.width, picture.height, format.width, format.height, fit)
  const scale = Math.max(w / (picture.width * sx), h / (picture.height * sy))
  // What is seen of the picture, and how far its middle is from the picture's own.
  const [seenX, seenY] = [w / (picture.width * sx * scale), h / (picture.height * sy * scale)]
  const [offX, offY] = [(pan[0] * (1 - seenX)) / 2, (pan[1] * (1 - seenY)) / 2]
  const round = (value: number) => Math.round(value * 1000) / 1000
  const side = (seen: number, off: number) => round(Math.max(0, ((1 - seen) / 2 + off) * 100))
  const params: Params = {
    size: round(scale * 100),
    position: [
      round(x + w / 2 - format.width / 2 - offX * picture.width * sx * scale),
      round(y + h / 2 - format.height / 2 - offY * picture.height * sy * scale),
    ],
    cropLeft: side(seenX, offX),
    cropRight: side(seenX, -offX),
    cropTop: side(seenY, offY),
    cropBottom: side(seenY, -offY),
  }
  if (!whole) {
    params.cornerRadius = look.cornerRadius
    params.border = look.border
    params.borderColour = look.borderColour
  }
  return params
}
