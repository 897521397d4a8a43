import { defineGenerator, colour, number, fill } from '../define'

/** Light in the middle, dark at the edges. */
export const halo = defineGenerator({
  id: 'halo',
  name: 'Halo',
  family: 'grounds',
  hint: 'Light in the middle, dark at the edges.',
  params: [
    colour('colour', 'Middle', '#f6d06b'),
    colour('colour2', 'Edge', '#3a1f4d'),
    number('size', 'Size', 5, 200, 80, '%'),
  ],
  draw(sheet, settings) {
    const { ck, canvas, width, height } = sheet
    const colours = [ck.parseColorString(String(settings.colour)), ck.parseColorString(String(settings.colour2))]
    const reach = (Math.max(width, height) / 2) * ((settings.size as number) / 100)
    const shader = ck.Shader.MakeRadialGradient([width / 2, height / 2], reach, colours, null, ck.TileMode.Clamp)
    const paint = fill(sheet, '#ffffff')
    paint.setShader(shader)
    canvas.drawRect(ck.LTRBRect(0, 0, width, height), paint)
    paint.delete()
    shader.delete()
  },
})
