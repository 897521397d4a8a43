import { defineGenerator, colour, number, fill } from '../define'

/** Darkens everything but an oval. */
export const spotlight = defineGenerator({
  id: 'spotlight',
  name: 'Spotlight',
  family: 'callouts',
  hint: 'Darkens everything but an oval.',
  params: [
    number('x', 'Across', -100, 200, 50, '%'),
    number('y', 'Down', -100, 200, 50, '%'),
    number('wide', 'Width', 1, 300, 40, '%'),
    number('high', 'Height', 1, 300, 55, '%'),
    number('soft', 'Softness', 0, 100, 30, '%'),
    colour('colour', 'Colour', '#0b0810'),
    number('solid', 'Strength', 0, 100, 70, '%'),
  ],
  draw(sheet, settings) {
    const { ck, canvas, width, height } = sheet
    const at = (key: string, size: number) => ((settings[key] as number) / 100) * size
    const [cx, cy, rx, ry] = [at('x', width), at('y', height), at('wide', width) / 2, at('high', height) / 2]
    const dark = ck.parseColorString(String(settings.colour))
    const alpha = (settings.solid as number) / 100
    const clear = ck.Color4f(dark[0]!, dark[1]!, dark[2]!, 0)
    const full = ck.Color4f(dark[0]!, dark[1]!, dark[2]!, alpha)
    const inner = Math.min(0.999, 1 - (settings.soft as number) / 100)
    const shader = ck.Shader.MakeRadialGradient([0, 0], 1, [clear, clear, full], [0, inner, 1], ck.TileMode.Clamp)
    const paint = fill(sheet, '#ffffff')
    paint.setShader(shader)
    canvas.translate(cx, cy)
    canvas.scale(rx, ry)
    canvas.drawRect(ck.LTRBRect(-cx / rx, -cy / ry, (width - cx) / rx, (height - cy) / ry), paint)
    paint.delete()
    shader.delete()
  },
})
