import { sinCosDegrees } from '@dusk/timeline'
import { colour, definePicture, degrees, num, number, percent, preset } from '../define'
import { parts } from '../colour/tools'

export const halftone = definePicture({
  id: 'halftone',
  name: 'Dots of print',
  family: 'stylise',
  hint: 'Dots of ink, larger where it is dark.',
  params: [
    number('size', 'Dots', 3, 80, 12, { unit: 'px', digits: 1, step: 0.5 }),
    degrees('angle', 'Rows', 30),
    percent('colour', 'Own colour', 0),
    colour('ink', 'Ink', '#2a2335'),
    colour('paper', 'Paper', '#f3ece2'),
  ],
  presets: [
    preset('newspaper', 'Newspaper', { size: 7 }),
    preset('poster', 'Coloured dots', { colour: 100, size: 16, paper: '#fff7e8' }),
  ],
  draw(stage, settings) {
    const { engine, picture } = stage
    const cell = Math.max(2, num(settings, 'size') * stage.scale)
    const soft = stage.copy()
    stage.blur(soft, cell / 3, cell / 3)
    const [sin, cos] = sinCosDegrees(num(settings, 'angle'))
    const [ink, paper] = [parts(settings.ink), parts(settings.paper)]
    engine.kernels.halftone(
      ...([soft.address(), picture.address(), picture.width, picture.height, cell, cos, sin] as const),
      ...([num(settings, 'colour') / 100, ink[0] * 255, ink[1] * 255, ink[2] * 255] as const),
      ...([paper[0] * 255, paper[1] * 255, paper[2] * 255, 0, picture.height] as const),
    )
    soft.release()
  },
})
