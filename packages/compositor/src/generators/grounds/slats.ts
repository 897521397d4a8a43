import { defineGenerator, colour, number, fill } from '../define'

/** Slanting stripes. */
export const slats = defineGenerator({
  id: 'slats',
  name: 'Slats',
  family: 'grounds',
  hint: 'Slanting stripes.',
  params: [
    colour('colour', 'Ground', '#2a2335'),
    colour('colour2', 'Pattern', '#3f3560'),
    number('size', 'Size', 4, 400, 60, 'px'),
  ],
  draw(sheet, settings) {
    const { ck, canvas, width, height } = sheet
    const ground = fill(sheet, String(settings.colour))
    canvas.drawRect(ck.LTRBRect(0, 0, width, height), ground)
    const paint = fill(sheet, String(settings.colour2))
    const size = settings.size as number
    canvas.save()
    canvas.rotate(30, width / 2, height / 2)
    for (let x = -width; x < width * 2; x += size * 2)
      canvas.drawRect(ck.LTRBRect(x, -height, x + size, height * 2), paint)
    canvas.restore()
    ground.delete()
    paint.delete()
  },
})
