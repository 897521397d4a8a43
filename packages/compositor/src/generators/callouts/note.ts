import { defineShape, pointer } from '../define'
import { tailParams, tailRoom } from './tail'

/** A box that points. */
export const note = defineShape({
  id: 'note',
  name: 'Note',
  hint: 'A box that points.',
  family: 'callouts',
  size: [560, 220],
  params: tailParams(-220, 280),
  room: tailRoom,
  path: (w, h, { tailX, tailY }) =>
    `M${-w / 2} ${-h / 2}H${w / 2}V${h / 2}H${-w / 2}Z` +
    `${pointer(w * 0.4, h * 0.4, Number(tailX), Number(tailY), Math.min(w, h) * 0.14)}`,
})
