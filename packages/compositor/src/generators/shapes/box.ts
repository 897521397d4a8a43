import { defineShape, number } from '../define'

/** A rectangle with square or round corners. */
export const box = defineShape({
  id: 'box',
  name: 'Box',
  hint: 'A rectangle with square or round corners.',
  size: [640, 360],
  params: [number('cornerRadius', 'Corners', 0, 2000, 0, 'px')],
  path: (w, h, { cornerRadius }) => {
    const r = Math.min(Number(cornerRadius), w / 2, h / 2)
    return (
      `M${-w / 2 + r} ${-h / 2}H${w / 2 - r}A${r} ${r} 0 0 1 ${w / 2} ${-h / 2 + r}V${h / 2 - r}` +
      `A${r} ${r} 0 0 1 ${w / 2 - r} ${h / 2}H${-w / 2 + r}A${r} ${r} 0 0 1 ${-w / 2} ${h / 2 - r}` +
      `V${-h / 2 + r}A${r} ${r} 0 0 1 ${-w / 2 + r} ${-h / 2}Z`
    )
  },
})
