import { defineShape } from '../define'
import { tailParams, tailRoom } from './tail'

/** A line from a dot to what is meant. */
export const leader = defineShape({
  id: 'leader',
  name: 'Leader',
  hint: 'A line from a dot to what is meant.',
  family: 'callouts',
  size: [420, 4],
  open: true,
  params: tailParams(-420, 240),
  room: tailRoom,
  path: (w, h, { tailX, tailY }) =>
    `M${w / 2} 0H${-w / 2}L${tailX} ${tailY}M${Number(tailX) - 8} ${tailY}a8 8 0 1 0 16 0a8 8 0 1 0 -16 0`,
})
