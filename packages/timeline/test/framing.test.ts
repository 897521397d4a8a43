import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  cellParams,
  clipLook,
  fillWith,
  LAYOUTS,
  moveViews,
  panAndZoom,
  PICTURE_MOVES,
  placeMatrix,
  shiftRuns,
  styleRange,
  valueAt,
  viewOf,
  widestView,
  type Animated,
  type Params,
  type Point,
} from '../src/index'

const HD = { width: 1920, height: 1080 }
const PHOTO = { width: 4000, height: 3000 }
const at = ([a, b, c, d, e, f]: readonly number[], x: number, y: number) => [a! * x + c! * y + e!, b! * x + d! * y + f!]

describe('views of a picture', () => {
  it('fill the reel with exactly the part that was asked for, whatever the fitting', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.1, max: 0.9, noNaN: true }),
        fc.double({ min: 0.1, max: 0.9, noNaN: true }),
        fc.double({ min: 0.2, max: 1, noNaN: true }),
        fc.constantFrom('fit' as const, 'fill' as const),
        (x, y, width, fit) => {
          const { position, size } = fillWith({ x, y, width }, PHOTO, HD, fit)
          const matrix = placeMatrix(clipLook({ position, size } as Params, 0), fit, PHOTO, HD)
          const height = (width * PHOTO.width * HD.height) / HD.width
          const left = at(matrix, x * PHOTO.width - (width * PHOTO.width) / 2, y * PHOTO.height - height / 2)
          expect(left[0]).toBeCloseTo(0, 0)
          expect(left[1]).toBeCloseTo(0, 0)
          const back = viewOf(position, size, PHOTO, HD, fit)
          expect(back.x).toBeCloseTo(x, 3)
          expect(back.width).toBeCloseTo(width, 3)
        },
      ),
    )
  })

  it('never show the edge of a picture in a ready-made move, from its first to its last frame', () => {
    for (const picture of [PHOTO, { width: 1080, height: 1920 }, { width: 3000, height: 1000 }, HD])
      for (const move of PICTURE_MOVES) {
        const [from, to] = moveViews(move, picture, HD)
        const params = panAndZoom(from, to, { head: 0, length: 1000 }, picture, HD, 'fit')
        for (const t of [0, 250, 500, 1000]) {
          const position = valueAt(params.position as Animated<Point>, t)
          const size = valueAt(params.size as Animated<number>, t)
          const matrix = placeMatrix(clipLook({ position, size } as Params, 0), 'fit', picture, HD)
          const [[x0, y0], [x1, y1]] = [at(matrix, 0, 0), at(matrix, picture.width, picture.height)] as [
            number[],
            number[],
          ]
          // Between two views position and size go by themselves, which may leave a part of a pixel.
          expect(Math.max(x0!, y0!), `${move.name} at ${t}`).toBeLessThan(40)
          expect(Math.min(x1! - HD.width, y1! - HD.height), `${move.name} at ${t}`).toBeGreaterThan(-40)
        }
      }
    expect(widestView(PHOTO, HD)).toBe(1)
    expect(widestView({ width: 3000, height: 1000 }, HD)).toBeCloseTo(0.5926, 3)
  })
})

describe('split screens', () => {
  it('have cells for two to nine that fill the frame without overlapping', () => {
    expect([...new Set(LAYOUTS.map((layout) => layout.cells.length))].sort()).toEqual([2, 3, 4, 5, 6, 7, 8, 9])
    for (const { id, cells } of LAYOUTS) {
      if (id === 'inTheCorner') continue
      expect(cells.reduce((sum, cell) => sum + cell.width * cell.height, 0)).toBeCloseTo(1, 9)
    }
  })

  it('put the part of a picture that is seen exactly on its cell, panned to an edge or not', () => {
    const look = { gap: 20, cornerRadius: 12, border: 0, borderColour: '#ffffff' }
    for (const pan of [
      [0, 0],
      [-1, 0],
      [1, 1],
    ] as Point[]) {
      const params = cellParams({ x: 0.5, y: 0, width: 0.5, height: 1 }, look, PHOTO, HD, 'fit', pan)
      const matrix = placeMatrix(clipLook(params, 0), 'fit', PHOTO, HD)
      const part = (key: string) => (params[key] as number) / 100
      const [x0, y0] = at(matrix, part('cropLeft') * PHOTO.width, part('cropTop') * PHOTO.height)
      const [x1, y1] = at(matrix, (1 - part('cropRight')) * PHOTO.width, (1 - part('cropBottom')) * PHOTO.height)
      ;[
        [x0, 970],
        [y0, 10],
        [x1, 1910],
        [y1, 1070],
      ].forEach(([is, wanted]) => expect(is).toBeCloseTo(wanted!, 0))
      if (pan[0] === -1) expect(params.cropLeft).toBe(0)
      if (pan[0] === 1) expect(params.cropRight).toBe(0)
    }
  })
})

describe('runs of a title', () => {
  const style = { colour: '#ff0000' }
  it('stay on their letters while the text around them changes', () => {
    const runs = [{ from: 8, to: 13, style }]
    const letters = (text: string, before = 'Lantern night here') =>
      shiftRuns(runs, before, text).map((run) => text.slice(run.from, run.to))
    expect(letters('Lantern night here')).toEqual(['night'])
    expect(letters('A lantern night here', 'Lantern night here')).toEqual(['night'])
    expect(letters('Lantern nights here')).toEqual(['nights'])
    expect(letters('Lantern nit here')).toEqual(['nit'])
    expect(letters('Lantern  here')).toEqual([])
    expect(letters('Lan here')).toEqual([])
  })

  it('take a new look on a range, and give up what it sets anew', () => {
    const one = styleRange([], 2, 6, style)
    expect(one).toEqual([{ from: 2, to: 6, style }])
    expect(styleRange(one, 2, 6, { weight: 900 })).toEqual([{ from: 2, to: 6, style: { ...style, weight: 900 } }])
    expect(styleRange(one, 0, 9, { colour: '#00ff00' })).toEqual([{ from: 0, to: 9, style: { colour: '#00ff00' } }])
  })
})
