import { choice, colour, definePicture, num, percent, pixels, preset, type EffectSettings } from '../define'
import { parts } from '../colour/tools'
import type { EffectStage } from '../stage'
import { finishKey, KEY_EDGE } from './matte'

/** Colour differences and luma (ITU-R BT.709) of a colour, each of 255. */
function sample(hex: unknown): [number, number, number] {
  const [r, g, b] = parts(hex).map((value) => value * 255) as [number, number, number]
  return [-0.1146 * r - 0.3854 * g + 0.5 * b, 0.5 * r - 0.4542 * g - 0.0458 * b, 0.2126 * r + 0.7152 * g + 0.0722 * b]
}

/** What is set of the further samples: empty ones are left out. */
const samplesOf = (settings: EffectSettings) => [
  sample(settings.colour),
  ...String(settings.more)
    .split(' ')
    .filter((hex) => /^#[\da-f]{6}$/i.test(hex))
    .slice(0, 12)
    .map(sample),
]

function draw(stage: EffectStage, settings: EffectSettings): void {
  const { engine, picture, pixels: count } = stage
  const { kernels, heap } = engine
  const samples = samplesOf(settings)
  const list = heap.allocate(samples.length * 12)
  heap.floats(list, samples.length * 3).set(samples.flat())
  const plane = heap.allocate(count)
  kernels.keyColours(
    ...([picture.address(), plane, count, list, samples.length] as const),
    ...([num(settings, 'tolerance') * 0.9, num(settings, 'softness') * 0.7, num(settings, 'shade') / 200] as const),
  )
  heap.release(list)
  const [cb, cr] = samples[0]!
  const length = Math.sqrt(cb * cb + cr * cr)
  const spill = num(settings, 'spill') / 100
  if (length > 4 && spill > 0) kernels.despill(picture.address(), count, cb / length, cr / length, spill)
  finishKey(stage, settings, plane)
  heap.release(plane)
}

export const keyColour = definePicture({
  id: 'keyColour',
  name: 'Green screen',
  family: 'key',
  hint: 'Takes a colour out, so that what lies beneath is seen there.',
  params: [
    colour('colour', 'Colour to take out', '#28b04a'),
    { kind: 'text', key: 'more', label: 'More samples', default: '', maxLength: 120, fixed: true },
    percent('tolerance', 'Tolerance', 22),
    percent('softness', 'Softness', 24),
    percent('spill', 'Take out its shine', 80),
    percent('shade', 'Mind brightness', 10),
    ...KEY_EDGE,
  ],
  presets: [
    preset('blueScreen', 'Blue screen', { colour: '#2f5fd0' }),
    preset('unevenCloth', 'Uneven cloth', { tolerance: 34, softness: 30, clean: 18 }),
  ],
  draw,
})

export const keyLight = definePicture({
  id: 'keyLight',
  name: 'Take out by brightness',
  family: 'key',
  hint: 'Takes out what is darker or brighter than a level: fire, smoke, ink on paper.',
  params: [
    choice('out', 'Take out', { dark: 'What is dark', bright: 'What is bright' }),
    percent('level', 'Level', 25),
    percent('softness', 'Softness', 30),
    ...KEY_EDGE,
  ],
  presets: [preset('inkOut', 'Only the ink', { out: 'bright', level: 60 })],
  draw(stage, settings) {
    const { engine, picture, pixels: count } = stage
    const plane = engine.heap.allocate(count)
    const level = num(settings, 'level') * 2.55
    const [low, high] = settings.out === 'dark' ? [level, 1e4] : [-1e4, level]
    engine.kernels.keyLuma(picture.address(), plane, count, low!, high!, num(settings, 'softness') * 2.55)
    finishKey(stage, settings, plane)
    engine.heap.release(plane)
  },
})

export const cutShape = definePicture({
  id: 'cutShape',
  name: 'Soft cut-out',
  family: 'key',
  hint: 'Leaves a soft shape of the picture and nothing round it.',
  params: [
    choice('shape', 'Shape', { round: 'Round', box: 'Box' }),
    percent('x', 'Middle across', 50),
    percent('y', 'Middle down', 50),
    percent('width', 'Width', 60, 200),
    percent('height', 'Height', 80, 200),
    pixels('feather', 'Feather', 60, 400),
  ],
  presets: [preset('porthole', 'Porthole', { width: 50, height: 88, feather: 4 })],
  draw(stage, settings) {
    const { engine, picture, bounds, pixels: count } = stage
    const { kernels, heap } = engine
    const [distance, plane] = [heap.allocate(count * 4), heap.allocate(count)]
    const half = (key: string, of: number) => Math.max(1, (of * num(settings, key)) / 200)
    kernels.boxDistance(
      ...([distance, picture.width, picture.height] as const),
      ...([bounds.x + (bounds.width * num(settings, 'x')) / 100] as const),
      ...([bounds.y + (bounds.height * num(settings, 'y')) / 100] as const),
      ...([half('width', bounds.width), half('height', bounds.height), 1, 0, 0] as const),
      settings.shape === 'round' ? 1 : 0,
    )
    const feather = (num(settings, 'feather') * stage.scale) / 2
    kernels.cover(distance, plane, count, feather, feather, 1, 0, 0)
    kernels.keepCovered(picture.address(), plane, count)
    heap.release(distance)
    heap.release(plane)
  },
})
