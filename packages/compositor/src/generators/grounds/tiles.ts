import { defineGenerator, colour, number, fill } from '../define'

/** A board of squares. */
export const tiles = defineGenerator({
  id: 'tiles',
  name: 'Tiles',
  family: 'grounds',
  hint: 'A board of squares.',
  params: [
    colour('colour', 'Ground', '#2a2335'),
    colour('colour2', 'Pattern', '#3f3560'),
    number('size', 'Size', 4, 400, 80, 'px'),
  ],
  draw(sheet, settings) {
    const { ck, canvas, width, height } = sheet
    const ground = fill(sheet, String(settings.colour))
    canvas.drawRect(ck.LTRBRect(0, 0, width, height), ground)
    const paint = fill(sheet, String(settings.colour2))
    const size = settings.size as number
    for (let j = 0; j * size < height; j++)
      for (let i = j % 2; i * size < width; i += 2)
        canvas.drawRect(ck.LTRBRect(i * size, j * size, (i + 1) * size, (j + 1) * size), paint)
    ground.delete()
    paint.delete()
  },
})
