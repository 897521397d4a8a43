import { defineShape, number } from '../define'

/** A line from a dot to what is meant. */
export const leader = defineShape({
  id: 'leader',
  name: 'Leader',
  hint: 'A line from a dot to what is meant.',
  family: 'callouts',
  size: [420, 4],
  open: true,
  params: [
    number('tailX', 'Points to →', -4000, 4000, -420, 'px'),
    number('tailY', 'Points to ↓', -4000, 4000, 240, 'px'),
  ],
  room: (settings) =>
    Math.max(
      Math.abs(Number(settings.tailX)) - Number(settings.width) / 2,
      Math.abs(Number(settings.tailY)) - Number(settings.height) / 2,
      0,
    ) + 20,
  path: (w, h, { tailX, tailY }) =>
    `M${w / 2} 0H${-w / 2}L${tailX} ${tailY}M${Number(tailX) - 8} ${tailY}a8 8 0 1 0 16 0a8 8 0 1 0 -16 0`,
})
