import { defineShape } from '../define'

/** Holds what is between. */
export const bracket = defineShape({
  id: 'bracket',
  name: 'Brackets',
  hint: 'Holds what is between.',
  size: [640, 300],
  open: true,
  path: (w, h) =>
    `M${-w / 2 + h * 0.2} ${-h / 2}H${-w / 2}V${h / 2}H${-w / 2 + h * 0.2}M${w / 2 - h * 0.2} ` +
    `${-h / 2}H${w / 2}V${h / 2}H${w / 2 - h * 0.2}`,
})
