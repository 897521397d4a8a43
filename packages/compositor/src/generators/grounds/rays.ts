import { sinCosDegrees } from '@dusk/timeline'
import { defineGenerator, colour, number, fill } from '../define'

/** Rays from the middle. */
export const rays = defineGenerator({
  id: 'rays',
  name: 'Rays',
  family: 'grounds',
  hint: 'Rays from the middle.',
  params: [
    colour('colour', 'Ground', '#ff9e5e'),
    colour('colour2', 'Rays', '#f6d06b'),
    number('count', 'Rays', 3, 60, 14),
  ],
  draw(sheet, settings) {
    const { ck, canvas, width, height } = sheet
    const ground = fill(sheet, String(settings.colour))
    canvas.drawRect(ck.LTRBRect(0, 0, width, height), ground)
    const paint = fill(sheet, String(settings.colour2))
    const count = Math.round(settings.count as number)
    const reach = width + height
    let data = ''
    for (let i = 0; i < count; i++) {
      const [s1, c1] = sinCosDegrees((i / count) * 360)
      const [s2, c2] = sinCosDegrees(((i + 0.5) / count) * 360)
      const end = `${width / 2 + c2 * reach} ${height / 2 + s2 * reach}`
      data += `M${width / 2} ${height / 2}l${c1 * reach} ${s1 * reach}L${end}Z`
    }
    const path = ck.Path.MakeFromSVGString(data)
    if (path) canvas.drawPath(path, paint)
    path?.delete()
    ground.delete()
    paint.delete()
  },
})
