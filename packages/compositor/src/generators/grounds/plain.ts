import { defineGenerator, colour, fill } from '../define'

/** One colour all over. */
export const plain = defineGenerator({
  id: 'plain',
  name: 'Plain',
  family: 'grounds',
  hint: 'One colour all over.',
  params: [colour('colour', 'Colour', '#2a2335')],
  draw(sheet, settings) {
    const paint = fill(sheet, String(settings.colour))
    sheet.canvas.drawRect(sheet.ck.LTRBRect(0, 0, sheet.width, sheet.height), paint)
    paint.delete()
  },
})
