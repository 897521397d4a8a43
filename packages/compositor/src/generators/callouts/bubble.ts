import { defineShape, number, pointer } from '../define'

/** A round bubble that points. */
export const bubble = defineShape({
  id: 'bubble',
  name: 'Speech bubble',
  hint: 'A round bubble that points.',
  family: 'callouts',
  size: [520, 320],
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
    `M${-w / 2} 0A${w / 2} ${h / 2} 0 1 1 ${w / 2} 0A${w / 2} ${h / 2} 0 1 1 ${-w / 2} 0Z${pointer(w * 0.5, h * 0.5, Number(tailX), Number(tailY), Math.min(w, h) * 0.14)}`,
})
