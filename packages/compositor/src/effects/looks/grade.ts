import { chroma, clamp, gamma, luma, parts, saturate, smooth } from '../colour/tools'
import { colour, defineColour, num, number, percent, preset, swing } from '../define'

/** One mood over everything: the looks are its presets, and each can be changed like any setting. */
export const grade = defineColour({
  id: 'grade',
  name: 'Look',
  family: 'looks',
  hint: 'A mood over everything: how dark falls, how light glows, which colours they lean to.',
  params: [
    swing('contrast', 'Contrast', 12),
    number('middle', 'Middle', 0.4, 2.5, 1, { digits: 2, step: 0.01 }),
    percent('fade', 'Faded', 0, 100, { hint: 'Black that never gets quite black' }),
    swing('warmth', 'Warmth', 10),
    swing('saturation', 'Saturation'),
    swing('vibrance', 'Vibrance'),
    colour('shadows', 'Shadows towards', '#2c3550'),
    percent('shadowsAmount', 'Amount', 25),
    colour('lights', 'Lights towards', '#ffc48a'),
    percent('lightsAmount', 'Amount', 25),
  ],
  presets: [
    preset('ember', 'Ember', { contrast: 14, warmth: 28, shadows: '#3a2340', lights: '#ff9e5e', lightsAmount: 45 }),
    preset('lowTide', 'Low tide', {
      contrast: -6,
      warmth: -14,
      fade: 18,
      saturation: -18,
      shadows: '#2b4a52',
      shadowsAmount: 45,
      lights: '#d8dccb',
    }),
    preset('paperMoon', 'Paper moon', {
      contrast: 6,
      warmth: -4,
      fade: 22,
      saturation: -35,
      shadows: '#40405c',
      lights: '#f5ead2',
      lightsAmount: 35,
    }),
    preset('slate', 'Slate', {
      contrast: 18,
      warmth: -20,
      saturation: -40,
      shadows: '#27303d',
      shadowsAmount: 50,
      lights: '#cfd8e6',
    }),
    preset('harbourDusk', 'Harbour dusk', {
      contrast: 10,
      warmth: 6,
      vibrance: 20,
      shadows: '#2a2a63',
      shadowsAmount: 55,
      lights: '#ffb98a',
      lightsAmount: 40,
    }),
    preset('saltWind', 'Salt wind', {
      contrast: 8,
      warmth: -10,
      fade: 10,
      saturation: -12,
      shadows: '#3f5f6b',
      lights: '#eef3f2',
    }),
    preset('lanternGold', 'Lantern gold', {
      contrast: 8,
      warmth: 34,
      vibrance: 15,
      shadows: '#4a2f20',
      lights: '#ffd36b',
      lightsAmount: 55,
    }),
    preset('deepWater', 'Deep water', {
      contrast: 20,
      warmth: -30,
      middle: 0.92,
      shadows: '#0d2f4a',
      shadowsAmount: 65,
      lights: '#9fd0d6',
      lightsAmount: 30,
    }),
    preset('oldPostcard', 'Old postcard', {
      contrast: -10,
      fade: 34,
      warmth: 24,
      saturation: -22,
      shadows: '#5c4a3a',
      lights: '#f7e2b5',
      lightsAmount: 40,
    }),
    preset('northLight', 'North light', {
      contrast: 4,
      warmth: -16,
      middle: 1.12,
      saturation: -10,
      shadows: '#4a5570',
      lights: '#f0f4ff',
    }),
    preset('copperRoof', 'Copper roof', {
      contrast: 16,
      warmth: 16,
      shadows: '#1f4f4a',
      shadowsAmount: 50,
      lights: '#ffab76',
      lightsAmount: 45,
    }),
    preset('plumNight', 'Plum night', {
      contrast: 12,
      middle: 0.88,
      warmth: -6,
      shadows: '#3d1f4a',
      shadowsAmount: 60,
      lights: '#f0b6c8',
      lightsAmount: 30,
    }),
    preset('mossBank', 'Moss bank', {
      contrast: 6,
      warmth: 8,
      saturation: -14,
      shadows: '#23402c',
      shadowsAmount: 50,
      lights: '#efe6bd',
    }),
    preset('firstFrost', 'First frost', {
      contrast: 10,
      middle: 1.1,
      warmth: -26,
      saturation: -22,
      shadows: '#425878',
      lights: '#f6fbff',
      lightsAmount: 40,
    }),
    preset('rosewater', 'Rosewater', {
      contrast: -4,
      middle: 1.1,
      fade: 12,
      warmth: 10,
      shadows: '#5b4660',
      lights: '#ffd7d2',
      lightsAmount: 45,
    }),
    preset('inkAndTin', 'Ink and tin', {
      contrast: 34,
      saturation: -100,
      shadows: '#10131c',
      shadowsAmount: 20,
      lights: '#f2f0ea',
      lightsAmount: 10,
      warmth: 0,
    }),
    preset('softSilver', 'Soft silver', {
      contrast: -6,
      fade: 16,
      saturation: -100,
      warmth: 0,
      shadows: '#2c2c34',
      lights: '#f4efe6',
      lightsAmount: 20,
    }),
    preset('kelp', 'Kelp', {
      contrast: 14,
      warmth: -6,
      saturation: -16,
      shadows: '#0f3a33',
      shadowsAmount: 60,
      lights: '#e6dca0',
      lightsAmount: 35,
    }),
    preset('brightRegatta', 'Bright regatta', {
      contrast: 12,
      middle: 1.06,
      vibrance: 45,
      saturation: 8,
      warmth: 4,
      shadowsAmount: 8,
      lightsAmount: 8,
    }),
    preset('dustRoad', 'Dust road', {
      contrast: 4,
      fade: 14,
      warmth: 30,
      saturation: -28,
      shadows: '#5a4630',
      lights: '#f5d7a0',
      lightsAmount: 45,
    }),
    preset('stormGlass', 'Storm glass', {
      contrast: 26,
      warmth: -22,
      saturation: -30,
      middle: 0.94,
      shadows: '#1b2a2f',
      shadowsAmount: 55,
      lights: '#c4d2c9',
    }),
    preset('candleRoom', 'Candle room', {
      contrast: 10,
      middle: 0.9,
      warmth: 44,
      shadows: '#3a1d14',
      shadowsAmount: 45,
      lights: '#ffb45c',
      lightsAmount: 60,
    }),
    preset('pierNeon', 'Pier at night', {
      contrast: 20,
      vibrance: 35,
      warmth: -8,
      shadows: '#251a5c',
      shadowsAmount: 60,
      lights: '#ff8fb4',
      lightsAmount: 35,
    }),
    preset('whiteSail', 'White sail', {
      contrast: 2,
      middle: 1.22,
      fade: 6,
      saturation: -8,
      warmth: 4,
      shadowsAmount: 10,
      lights: '#fffaf0',
      lightsAmount: 30,
    }),
    preset('rust', 'Rust', {
      contrast: 18,
      warmth: 26,
      saturation: -10,
      shadows: '#3b2a24',
      shadowsAmount: 40,
      lights: '#e88a54',
      lightsAmount: 50,
    }),
    preset('moonlit', 'Moonlit', {
      contrast: 8,
      middle: 0.7,
      warmth: -38,
      saturation: -45,
      shadows: '#0c1638',
      shadowsAmount: 70,
      lights: '#b8c8f0',
      lightsAmount: 45,
    }),
  ],
  colour(settings) {
    const contrast = 1 + num(settings, 'contrast') / 100
    const bend = gamma(1 / num(settings, 'middle'))
    const fade = num(settings, 'fade') / 400
    const warm = num(settings, 'warmth') / 100
    const saturation = 1 + num(settings, 'saturation') / 100
    const vibrance = num(settings, 'vibrance') / 100
    const leaning = (key: string) => {
      const to = parts(settings[key])
      const grey = 0.2126 * to[0] + 0.7152 * to[1] + 0.0722 * to[2]
      return to.map((value) => (value - grey) * (num(settings, `${key}Amount`) / 100))
    }
    const [low, high] = [leaning('shadows'), leaning('lights')]
    const by = [1 + 0.2 * warm, 1 + 0.02 * warm, 1 - 0.24 * warm]
    return (rgb) => {
      for (let c = 0; c < 3; c++) rgb[c] = bend(clamp(0.45 + (rgb[c]! * by[c]! - 0.45) * contrast))
      saturate(rgb, Math.max(0, saturation * (1 + vibrance * (1 - clamp(chroma(rgb))))))
      const l = clamp(luma(rgb))
      const [dark, light] = [1 - smooth(0, 0.6, l), smooth(0.35, 1, l)]
      for (let c = 0; c < 3; c++)
        rgb[c] = fade + (1 - fade * 1.3) * (rgb[c]! + dark * low[c]! + light * high[c]! * (1 - 0.5 * l))
    }
  },
})
