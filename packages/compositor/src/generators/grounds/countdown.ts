import { TICKS_PER_SECOND } from '@dusk/timeline'
import { defineGenerator, colour, number, fill } from '../define'

/** Counts the seconds down to the end of the clip, with a hand that goes round. */
export const countdown = defineGenerator({
  id: 'countdown',
  name: 'Countdown',
  family: 'grounds',
  hint: 'Counts the seconds down to the end of the clip, with a hand that goes round.',
  params: [
    colour('colour', 'Ground', '#1f1a28'),
    colour('colour2', 'Figures', '#f3ece2'),
    colour('colour3', 'Hand', '#ff9e5e'),
    number('from', 'Most', 1, 99, 10),
  ],
  frame: (_settings, time, length) => Math.max(1, Math.ceil(((length - time) / TICKS_PER_SECOND) * 60)),
  text: () => '0123456789',
  draw(sheet, settings) {
    const { ck, canvas, fonts, width, height, frame } = sheet
    const ground = fill(sheet, String(settings.colour))
    canvas.drawRect(ck.LTRBRect(0, 0, width, height), ground)
    ground.delete()
    // Frames are sixtieths of a second left, rounded up.
    const seconds = Math.min(Math.ceil(frame / 60), settings.from as number)
    const part = 1 - ((frame - 1) % 60) / 60
    const reach = Math.min(width, height) * 0.34
    const hand = fill(sheet, String(settings.colour3), 0.9)
    hand.setStyle(ck.PaintStyle.Stroke)
    hand.setStrokeWidth(reach * 0.08)
    const [cx, cy] = [width / 2, height / 2]
    canvas.drawArc(ck.LTRBRect(cx - reach, cy - reach, cx + reach, cy + reach), -90, 360 * part, false, hand)
    hand.delete()
    const style = new ck.ParagraphStyle({
      textAlign: ck.TextAlign.Center,
      textStyle: {
        color: ck.parseColorString(String(settings.colour2)),
        fontFamilies: fonts.order('Hanken Grotesk'),
        fontSize: reach,
        fontStyle: { weight: { value: 700 } as never },
      },
    })
    const builder = ck.ParagraphBuilder.MakeFromFontCollection(style, fonts.collection)
    builder.addText(String(seconds))
    const figures = builder.build()
    figures.layout(width)
    canvas.drawParagraph(figures, 0, cy - figures.getHeight() / 2)
    figures.delete()
    builder.delete()
  },
})
