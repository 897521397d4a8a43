import { defineShape, number } from '../define'

/** A solid arrow to the right; turn it to where it points. */
export const arrow = defineShape({
  id: 'arrow',
  name: 'Arrow',
  hint: 'A solid arrow to the right; turn it to where it points.',
  size: [520, 240],
  params: [number('thickness', 'Thickness', 5, 100, 40, '%')],
  path: (w, h, { thickness }) => {
    const t = (h * Number(thickness)) / 200
    const neck = w / 2 - Math.min(w * 0.45, h * 0.9)
    return `M${-w / 2} ${-t}H${neck}V${-h / 2}L${w / 2} 0L${neck} ${h / 2}V${t}H${-w / 2}Z`
  },
})
