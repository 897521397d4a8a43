import type { Picture } from '../picture'
import { cosTurn, sinTurn } from './maths'
import type { Stage } from './stage'

/** How far away the eye is, in widths of the frame. */
const EYE = 1.6

/**
 * Draws a picture as a card turned about its middle axis, in perspective.
 * @param angle in turns; 0 faces the eye, a quarter shows its edge
 */
export function bendCard(stage: Stage, picture: Picture, across: boolean, angle: number): void {
  const { width, height } = stage
  const [s, c] = [sinTurn(angle), cosTurn(angle)]
  if (Math.abs(c) < 0.002) return
  const size = across ? width : height
  stage.bend(
    picture,
    (x, y) => {
      // The place on the card that the ray through this pixel meets.
      const [p, q] = across ? [x / size - 0.5, y - height / 2] : [y / size - 0.5, x - width / 2]
      const u = (p * EYE) / (c * EYE - p * s)
      const depth = 1 + (u * s) / EYE
      if (depth <= 0.1) return [-1e4, -1e4, 1]
      const along = (u + 0.5) * size
      const other = q * depth + (across ? height : width) / 2
      return across ? [along, other, 0.45 + 0.55 * Math.abs(c)] : [other, along, 0.45 + 0.55 * Math.abs(c)]
    },
    { cell: 8 },
  )
}

/** Draws two pictures as neighbouring sides of a box that turns a quarter, `t` of it. */
export function bendBox(stage: Stage, t: number, from: Picture, to: Picture): void {
  const { width, height } = stage
  const side = (picture: Picture, turn: number) => {
    const [s, c] = [sinTurn(turn), cosTurn(turn)]
    stage.bend(
      picture,
      (x, y) => {
        // The side is a line half a width before the box's middle; the eye looks at the middle from EYE before it.
        const p = x / width - 0.5
        const across = c * EYE + p * s
        const near = (p * (EYE + 0.5 - 0.5 * c) + 0.5 * s * EYE) / (across === 0 ? 1e-6 : across)
        const depth = EYE + 0.5 - 0.5 * c - near * s
        if (depth < 0.2 || across <= 0) return [-1e4, -1e4, 1]
        return [(near + 0.5) * width, ((y - height / 2) * depth) / EYE + height / 2, 0.4 + 0.6 * Math.max(0, c)]
      },
      { cell: 8 },
    )
  }
  side(to, 0.25 - t * 0.25)
  side(from, -t * 0.25)
}
