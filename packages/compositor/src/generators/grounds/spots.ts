import { defineGenerator } from '../define'
import { pattern, patternParams } from './pattern'

/** Round spots in rows. */
export const spots = defineGenerator({
  id: 'spots',
  name: 'Spots',
  family: 'grounds',
  hint: 'Round spots in rows.',
  params: patternParams(40),
  draw: (sheet, settings) =>
    pattern(sheet, settings, (paint, size) => {
      const { canvas, width, height } = sheet
      for (let j = 0, y = size; y < height + size; y += size * 1.7, j++)
        for (let x = j % 2 ? size : 0; x < width + size; x += size * 2) canvas.drawCircle(x, y, size * 0.4, paint)
    }),
})
