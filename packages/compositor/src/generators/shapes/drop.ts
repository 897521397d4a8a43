import { defineShape } from '../define'

/** A drop of water. */
export const drop = defineShape({
  id: 'drop',
  name: 'Drop',
  hint: 'A drop of water.',
  path: (w, h) =>
    `M0 ${-h / 2}C${w * 0.2} ${-h * 0.15} ${w / 2} 0 ${w / 2} ${h * 0.2}A${w / 2} ${h * 0.3} 0 0 1 ${-w / 2} ` +
    `${h * 0.2}C${-w / 2} 0 ${-w * 0.2} ${-h * 0.15} 0 ${-h / 2}Z`,
})
