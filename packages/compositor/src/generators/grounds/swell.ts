import { TICKS_PER_SECOND } from '@dusk/timeline'
import { defineGenerator } from '../define'
import { pattern, patternParams } from './pattern'

/** Rows of waves, rolling slowly. */
export const swell = defineGenerator({
  id: 'swell',
  name: 'Swell',
  family: 'grounds',
  hint: 'Rows of waves, rolling slowly.',
  params: patternParams(90),
  // One round in four seconds, in 120 pictures.
  frame: (_settings, time) => Math.floor((time / TICKS_PER_SECOND) * 30) % 120,
  draw: (sheet, settings) =>
    pattern(sheet, settings, (paint, size) => {
      const { ck, canvas, width, height } = sheet
      const shift = (sheet.frame / 120) * size * 2
      for (let j = 0, y = size; y < height + size * 2; y += size, j++) {
        paint.setAlphaf(0.35 + 0.1 * (j % 3))
        let data = `M${-size * 4} ${height + size * 4}L${-size * 4} ${y}`
        const off = (shift * (j % 2 ? 1 : -1)) % (size * 2)
        for (let x = -size * 4; x < width + size * 4; x += size * 2)
          data += `Q${x + off + size * 0.5} ${y - size * 0.6} ${x + off + size} ${y}T${x + off + size * 2} ${y}`
        const path = ck.Path.MakeFromSVGString(`${data}L${width + size * 4} ${height + size * 4}Z`)
        if (path) canvas.drawPath(path, paint)
        path?.delete()
      }
    }),
})
