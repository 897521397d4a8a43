import { defineShape, pointer } from '../define'
import { tailParams, tailRoom } from './tail'

/** A round bubble that points. */
export const bubble = defineShape({
  id: 'bubble',
  name: 'Speech bubble',
  hint: 'A round bubble that points.',
  family: 'callouts',
  size: [520, 320],
  params: tailParams(-220, 280),
  room: tailRoom,
  path: (w, h, { tailX, tailY }) =>
    `M${-w / 2} 0A${w / 2} ${h / 2} 0 1 1 ${w / 2} 0A${w / 2} ${h / 2} 0 1 1 ${-w / 2} ` +
    `0Z${pointer(w * 0.5, h * 0.5, Number(tailX), Number(tailY), Math.min(w, h) * 0.14)}`,
})
