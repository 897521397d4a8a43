import { defineShape, number, pointer } from '../define'

/** A box that points. */
export const note = defineShape({
  id: 'note',
  name: 'Note',
  hint: 'A box that points.',
  family: 'callouts',
  size: [560, 220],
  params: [
    number('tailX', 'Points to →', -4000, 4000, -220, 'px'),
    number('tailY', 'Points to ↓', -4000, 4000, 280, 'px'),
  ],
  room: (settings) =>
    Math.max(
      Math.abs(Number(settings.tailX)) - Number(settings.width) / 2,
      Math.abs(Number(settings.tailY)) - Number(settings.height) / 2,
      0,
    ) + 20,
  path: (w, h, { tailX, tailY }) =>
    `M${-w / 2} ${-h / 2}H${w / 2}V${h / 2}H${-w / 2}Z${pointer(w * 0.4, h * 0.4, Number(tailX), Number(tailY), Math.min(w, h) * 0.14)}`,
})
