import { defineGenerator } from '../define'
import { pattern, patternParams } from './pattern'

/** A board of squares. */
export const tiles = defineGenerator({
  id: 'tiles',
  name: 'Tiles',
  family: 'grounds',
  hint: 'A board of squares.',
  params: patternParams(80),
  draw: (sheet, settings) =>
    pattern(sheet, settings, (paint, size) => {
      const { ck, canvas, width, height } = sheet
      for (let j = 0; j * size < height; j++)
        for (let i = j % 2; i * size < width; i += 2)
          canvas.drawRect(ck.LTRBRect(i * size, j * size, (i + 1) * size, (j + 1) * size), paint)
    }),
})
