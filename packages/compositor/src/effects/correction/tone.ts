import { exp2 } from '@dusk/timeline'
import { luma, smooth } from '../colour/tools'
import { defineColour, num, number, percent, preset, swing } from '../define'

/** Display gamma by which stops become factors of what is shown. */
const DISPLAY = 2.2

export const tone = defineColour({
  id: 'tone',
  name: 'Light',
  family: 'correction',
  hint: 'Exposure, contrast, and the brightest and darkest parts by themselves.',
  params: [
    number('exposure', 'Exposure', -4, 4, 0, { unit: 'stops', digits: 2, step: 0.05 }),
    swing('contrast', 'Contrast'),
    percent('pivot', 'Contrast about', 45),
    swing('highlights', 'Highlights'),
    swing('shadows', 'Shadows'),
    swing('whites', 'Whites'),
    swing('blacks', 'Blacks'),
  ],
  presets: [
    preset('openShadows', 'Open the shadows', { shadows: 55, blacks: 10 }),
    preset('calmSky', 'Calm the sky', { highlights: -60, whites: -15 }),
    preset('punch', 'More punch', { contrast: 22, whites: 10, blacks: -10 }),
    preset('brighter', 'A stop brighter', { exposure: 1, highlights: -25 }),
  ],
  colour(settings) {
    const gain = exp2(num(settings, 'exposure') / DISPLAY)
    const contrast = 1 + num(settings, 'contrast') / 100
    const pivot = num(settings, 'pivot') / 100
    const [highlights, shadows] = [num(settings, 'highlights') / 300, num(settings, 'shadows') / 300]
    const [whites, blacks] = [num(settings, 'whites') / 400, num(settings, 'blacks') / 400]
    return (rgb) => {
      for (let c = 0; c < 3; c++) rgb[c] = pivot + (rgb[c]! * gain - pivot) * contrast
      const l = luma(rgb)
      const add =
        highlights * smooth(0.35, 1, l) +
        shadows * (1 - smooth(0, 0.65, l)) * smooth(-0.05, 0.25, l) +
        whites * l * l * l +
        blacks * (1 - l) * (1 - l) * (1 - l)
      for (let c = 0; c < 3; c++) rgb[c]! += add
    }
  },
})
