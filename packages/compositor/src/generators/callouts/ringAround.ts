import { defineShape } from '../define'

/** A hand-drawn ring around what matters. */
export const ringAround = defineShape({
  id: 'ringAround',
  name: 'Ring around',
  hint: 'A hand-drawn ring around what matters.',
  family: 'callouts',
  size: [460, 320],
  open: true,
  path: (w, h) =>
    `M${-w * 0.42} ${-h * 0.2}C${-w * 0.2} ${-h * 0.62} ${w * 0.5} ${-h * 0.55} ${w * 0.5} ` +
    `${h * 0.02}C${w * 0.5} ${h * 0.55} ${-w * 0.5} ${h * 0.6} ${-w * 0.5} ${h * 0.02}C${-w * 0.5} ` +
    `${-h * 0.4} ${w * 0.1} ${-h * 0.56} ${w * 0.36} ${-h * 0.36}`,
})
