import { sinCosDegrees } from '@dusk/timeline'
import { defineGenerator, colour, number, fill } from '../define'

/** From one colour to another. */
export const gradient = defineGenerator({
  id: 'gradient',
  name: 'Gradient',
  family: 'grounds',
  hint: 'From one colour to another.',
  params: [
    colour('colour', 'From', '#3d2f73'),
    colour('colour2', 'To', '#ff9e5e'),
    number('turn', 'Direction', 0, 360, 90, '°'),
  ],
  draw(sheet, settings) {
    const { ck, canvas, width, height } = sheet
    const [sin, cos] = sinCosDegrees(settings.turn as number)
    const reach = (Math.abs(cos) * width + Math.abs(sin) * height) / 2
    const [cx, cy] = [width / 2, height / 2]
    const colours = [ck.parseColorString(String(settings.colour)), ck.parseColorString(String(settings.colour2))]
    const shader = ck.Shader.MakeLinearGradient(
      [cx - cos * reach, cy - sin * reach],
      [cx + cos * reach, cy + sin * reach],
      colours,
      null,
      ck.TileMode.Clamp,
    )
    const paint = fill(sheet, '#ffffff')
    paint.setShader(shader)
    canvas.drawRect(ck.LTRBRect(0, 0, width, height), paint)
    paint.delete()
    shader.delete()
  },
})
