import { defineGenerator, colour, number, fill } from '../define'

/** Round spots in rows. */
export const spots = defineGenerator({
  id: 'spots',
  name: 'Spots',
  family: 'grounds',
  hint: 'Round spots in rows.',
  params: [
    colour('colour', 'Ground', '#2a2335'),
    colour('colour2', 'Pattern', '#3f3560'),
    number('size', 'Size', 4, 400, 40, 'px'),
  ],
  draw(sheet, settings) {
    const { ck, canvas, width, height } = sheet
    const ground = fill(sheet, String(settings.colour))
    canvas.drawRect(ck.LTRBRect(0, 0, width, height), ground)
    const paint = fill(sheet, String(settings.colour2))
    const size = settings.size as number
    for (let j = 0, y = size; y < height + size; y += size * 1.7, j++)
      for (let x = j % 2 ? size : 0; x < width + size; x += size * 2) canvas.drawCircle(x, y, size * 0.4, paint)
    ground.delete()
    paint.delete()
  },
})
