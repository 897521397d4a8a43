import { defineGenerator } from '../define'
import { pattern, patternParams } from './pattern'

/** Slanting stripes. */
export const slats = defineGenerator({
  id: 'slats',
  name: 'Slats',
  family: 'grounds',
  hint: 'Slanting stripes.',
  params: patternParams(60),
  draw: (sheet, settings) =>
    pattern(sheet, settings, (paint, size) => {
      const { ck, canvas, width, height } = sheet
      canvas.save()
      canvas.rotate(30, width / 2, height / 2)
      for (let x = -width; x < width * 2; x += size * 2)
        canvas.drawRect(ck.LTRBRect(x, -height, x + size, height * 2), paint)
      canvas.restore()
    }),
})
