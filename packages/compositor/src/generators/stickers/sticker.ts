import { EMOJI } from '../../drawing/fonts'
import { defineGenerator, number } from '../define'

/** An emoji or a few, as large as you like. */
export const sticker = defineGenerator({
  id: 'sticker',
  name: 'Sticker',
  family: 'stickers',
  hint: 'An emoji or a few, as large as you like.',
  params: [
    { kind: 'text', key: 'text', label: 'Emoji', default: '🏮', maxLength: 40, fixed: true },
    number('size', 'Size', 8, 1000, 260, 'px'),
  ],
  text: (settings) => String(settings.text ?? '🏮'),
  box: (settings, frame) => {
    const size = settings.size as number
    const wide = Math.min(frame.width, size * 1.5 * Math.max(1, String(settings.text).length))
    return { x: (frame.width - wide) / 2, y: (frame.height - size * 1.4) / 2, width: wide, height: size * 1.4 }
  },
  draw(sheet, settings) {
    const { ck, canvas, fonts, width, height } = sheet
    const style = new ck.ParagraphStyle({
      textAlign: ck.TextAlign.Center,
      textStyle: {
        color: ck.WHITE,
        fontFamilies: [EMOJI.name, ...fonts.order('Hanken Grotesk')],
        fontSize: settings.size as number,
      },
    })
    const builder = ck.ParagraphBuilder.MakeFromFontCollection(style, fonts.collection)
    builder.addText(String(settings.text))
    const line = builder.build()
    line.layout(width * 2)
    canvas.drawParagraph(line, -width / 2, height / 2 - line.getHeight() / 2)
    line.delete()
    builder.delete()
  },
})
