import { defineShape, number } from '../define'

/** A rectangle with square or round corners. */
export const box = defineShape({
  id: 'box',
  name: 'Box',
  hint: 'A rectangle with square or round corners.',
  size: [640, 360],
  params: [number('corners', 'Corners', 0, 2000, 0, 'px')],
  path: (w, h, { corners }) => {
    const r = Math.min(Number(corners), w / 2, h / 2)
    return (
      `M${-w / 2 + r} ${-h / 2}H${w / 2 - r}A${r} ${r} 0 0 1 ${w / 2} ${-h / 2 + r}V${h / 2 - r}` +
      `A${r} ${r} 0 0 1 ${w / 2 - r} ${h / 2}H${-w / 2 + r}A${r} ${r} 0 0 1 ${-w / 2} ${h / 2 - r}V${-h / 2 + r}A${r} ${r} 0 0 1 ${-w / 2 + r} ${-h / 2}Z`
    )
  },
})
