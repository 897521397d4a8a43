import { mixColours } from '@dusk/timeline'
import { defineGenerator, colour, fill } from '../define'

/** Bands of dusk above a dark shore. */
export const eveningSky = defineGenerator({
  id: 'eveningSky',
  name: 'Evening sky',
  family: 'grounds',
  hint: 'Bands of dusk above a dark shore.',
  params: [
    colour('colour', 'Above', '#2a1f4d'),
    colour('colour2', 'Horizon', '#ff9e5e'),
    colour('colour3', 'Shore', '#16131c'),
  ],
  draw(sheet, settings) {
    const { ck, canvas, width, height } = sheet
    const bands = 9
    for (let i = 0; i < bands; i++) {
      const paint = fill(sheet, mixColours(String(settings.colour), String(settings.colour2), i / (bands - 1)))
      canvas.drawRect(ck.LTRBRect(0, (i / bands) * height * 0.8, width, height), paint)
      paint.delete()
    }
    const shore = fill(sheet, String(settings.colour3))
    const path = ck.Path.MakeFromSVGString(
      `M0 ${height}V${height * 0.82}Q${width * 0.2} ${height * 0.74} ${width * 0.42} ` +
        `${height * 0.81}T${width * 0.8} ${height * 0.79}T${width} ${height * 0.83}V${height}Z`,
    )
    if (path) canvas.drawPath(path, shore)
    path?.delete()
    shore.delete()
  },
})
