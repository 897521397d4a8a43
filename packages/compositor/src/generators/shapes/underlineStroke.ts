import { defineShape } from '../define'

/** A stroke of the brush beneath a word. */
export const underlineStroke = defineShape({
  id: 'underlineStroke',
  name: 'Underline',
  hint: 'A stroke of the brush beneath a word.',
  size: [640, 50],
  open: true,
  path: (w, h) =>
    `M${-w / 2} ${h * 0.2}C${-w * 0.2} ${-h * 0.5} ${w * 0.1} ${-h * 0.1} ${w / 2} ${-h * 0.4}C${w * 0.2} ` +
    `${h * 0.1} ${-w * 0.1} ${h * 0.1} ${-w * 0.3} ${h * 0.5}`,
})
