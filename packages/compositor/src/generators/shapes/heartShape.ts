import { defineShape } from '../define'

/** A heart. */
export const heartShape = defineShape({
  id: 'heartShape',
  name: 'Heart',
  hint: 'A heart.',
  path: (w, h) =>
    `M0 ${h / 2}C${-w * 0.75} ${-h * 0.05} ${-w * 0.42} ${-h * 0.72} 0 ${-h * 0.24}C${w * 0.42} ${-h * 0.72} ` +
    `${w * 0.75} ${-h * 0.05} 0 ${h / 2}Z`,
})
