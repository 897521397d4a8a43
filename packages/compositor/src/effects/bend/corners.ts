import type { Param } from '@dusk/timeline'
import { definePicture, preset, type EffectSettings } from '../define'
import { bent } from '../tools/bent'

const CORNERS = [
  ['upperLeft', 'Upper left', 8, 6],
  ['upperRight', 'Upper right', 90, 0],
  ['lowerRight', 'Lower right', 100, 100],
  ['lowerLeft', 'Lower left', 2, 96],
] as const

/**
 * The matrix that takes the corners of the unit square to four points, and back: P. S. Heckbert, "Fundamentals of
 * texture mapping and image warping", 1989, § 2.2.3.
 * @returns row by row, or `null` where three of the points lie on a line
 */
function fromPoints(points: readonly (readonly [number, number])[]): number[] | null {
  const [[x0, y0], [x1, y1], [x2, y2], [x3, y3]] = points as [
    [number, number],
    [number, number],
    [number, number],
    [number, number],
  ]
  const [dx1, dx2, sx] = [x1 - x2, x3 - x2, x0 - x1 + x2 - x3]
  const [dy1, dy2, sy] = [y1 - y2, y3 - y2, y0 - y1 + y2 - y3]
  const area = dx1 * dy2 - dx2 * dy1
  if (Math.abs(area) < 1e-9) return null
  const g = (sx * dy2 - dx2 * sy) / area
  const h = (dx1 * sy - sx * dy1) / area
  return [x1 - x0 + g * x1, x3 - x0 + h * x3, x0, y1 - y0 + g * y1, y3 - y0 + h * y3, y0, g, h, 1]
}

function inverse([a, b, c, d, e, f, g, h, i]: number[]): number[] {
  return [
    e! * i! - f! * h!,
    c! * h! - b! * i!,
    b! * f! - c! * e!,
    f! * g! - d! * i!,
    a! * i! - c! * g!,
    c! * d! - a! * f!,
    d! * h! - e! * g!,
    b! * g! - a! * h!,
    a! * e! - b! * d!,
  ]
}

const pointOf = (settings: EffectSettings, key: string): [number, number] => {
  const value = settings[key]
  return Array.isArray(value) ? [value[0] / 100, value[1] / 100] : [0, 0]
}

export const corners = definePicture({
  id: 'corners',
  name: 'Four corners',
  family: 'bend',
  hint: 'Each corner is put anywhere: a picture on a sail, on a wall, on a screen.',
  params: CORNERS.map(([key, label, x, y]): Param => ({
    kind: 'point',
    key,
    label,
    min: -200,
    max: 300,
    default: [x, y],
    unit: '%',
    digits: 1,
  })),
  presets: [
    preset('onTheSail', 'On a sail', {
      upperLeft: [30, 4],
      upperRight: [64, 12],
      lowerRight: [88, 90],
      lowerLeft: [10, 82],
    }),
    preset('crawlAway', 'Lying on the water', { upperLeft: [28, 42], upperRight: [72, 42] }),
  ],
  draw(stage, settings) {
    const { bounds } = stage
    const to = fromPoints(CORNERS.map(([key]) => pointOf(settings, key)))
    if (!to) return
    const back = inverse(to)
    bent(
      stage,
      (x, y) => {
        const [u, v] = [(x - bounds.x) / bounds.width, (y - bounds.y) / bounds.height]
        const w = back[6]! * u + back[7]! * v + back[8]!
        // Behind the eye there is nothing.
        if (Math.abs(w) < 1e-9 || w * back[8]! < 0) return [-1e4, -1e4]
        return [
          bounds.x + ((back[0]! * u + back[1]! * v + back[2]!) / w) * bounds.width,
          bounds.y + ((back[3]! * u + back[4]! * v + back[5]!) / w) * bounds.height,
        ]
      },
      { empty: true },
    )
  },
})
