import { readFileSync } from 'node:fs'
import { Compositor, createEngine, Picture, PICTURE_EFFECTS } from '@dusk/compositor'
import { maskPlan, type EffectsPlan, type FramePlan, type MaskShape } from '@dusk/timeline'
import { table, time } from './table'

/** Milliseconds a 1080p frame that every effect takes at its defaults beyond laying the picture down; one thread. */
const engine = await createEngine(readFileSync(new URL('../packages/compositor/build/kernels.wasm', import.meta.url)))
const compositor = new Compositor(engine)
const [width, height] = [1920, 1080]
const picture = Picture.rgba(engine, width, height)
picture.bytes().forEach((_, i, bytes) => {
  const [n, c] = [i >> 2, i & 3]
  const smooth = ((n % width) * 255) / width / 2 + (Math.floor(n / width) * 127) / height
  bytes[i] = c === 3 ? 255 : smooth + ((Math.imul(n, 2654435761) >>> (24 + c)) & 15)
})
const draw = (stack: EffectsPlan['stack']) => {
  const effects = stack.length > 0 ? { effects: { stack, scale: 1, time: 1.3 } } : {}
  const layer = {
    ...{ kind: 'picture' as const, assetId: '', time: 0, width, height, matrix: [1, 0, 0, 1, 0, 0] as const },
    ...{ opacity: 1, alpha: true, ...effects },
  }
  const plan: FramePlan = { width, height, background: '#000000', layers: [layer], passThrough: false }
  return time(() => compositor.compose(plan, [picture]), 5)
}
const one = (kind: string, settings: EffectsPlan['stack'][number]['settings'] = {}, strength = 1) => ({
  kind,
  settings,
  strength,
})
const bare = draw([])

/** What is allowed, where it is not the usual 90. */
const MOST: Record<string, number> = { blur: 45, mosaic: 25, sharpen: 25, vignette: 25, grain: 25, keyColour: 60 }
/** Why an effect takes longer than what is allowed, on a machine where it does. */
const WHY: Record<string, string> = {
  motion: 'ten layings of the whole picture',
  zoomBlur: 'ten layings of the whole picture',
  spinBlur: 'ten layings of the whole picture',
  rays: 'ten layings of what is bright',
  frosted: 'a blur, and each pixel from elsewhere by dice',
  softSkin: 'two blurs, and what every pixel differs from its surroundings by',
  calmNoise: 'two blurs, and what every pixel differs from its surroundings by',
  bloom: 'two blurs, and light laid on three times',
  leaks: 'five soft discs as large as the picture',
  gradientTint: 'two pictures of a colour, mixed along the way',
  edges: 'the slope of luma at every pixel, beside a blur',
  sketch: 'the slope of luma at every pixel, beside two blurs and grain',
  ink: 'the slope of luma at every pixel, beside three blurs',
  halftone: 'the distance of every pixel from its dot',
  oil: 'three blurs, and four neighbourhoods compared for every pixel',
  crystal: 'nine points compared for every pixel',
  drops: 'each drop bends the picture once',
  oldTape: 'five effects in one',
  pen: 'distances of every pixel from eight hundred sides, anew in each frame',
}
const rows: (string | number)[][] = [['laying the picture down', bare, '']]
const add = (name: string, ms: number, most: number, id = '') => {
  const beyond = ms - bare > most ? `beyond ${most}${WHY[id] ? `: ${WHY[id]}` : ''}` : ''
  rows.push([name, ms - bare, beyond])
}
add(
  'six colour effects as one table',
  draw(
    ['tone', 'balance', 'levels', 'wheels', 'hues', 'curves'].map((kind) =>
      one(kind, kind === 'tone' ? { exposure: 0.4, contrast: 20 } : {}),
    ),
  ),
  30,
)
for (const radius of [3, 12, 60, 250]) add(`blur of ${radius} px`, draw([one('blur', { radius })]), 45)
for (const { id, name, family } of PICTURE_EFFECTS) {
  if (id === 'cutAway') continue
  add(`${family}: ${name}`, draw([one(id)]), MOST[id] ?? 90, id)
}
const shape = (kind: MaskShape['kind'], more: Partial<MaskShape> = {}): MaskShape => ({
  ...{ id: kind, kind, mode: 'add', settings: { outer: 40 } },
  ...more,
})
const points = Array.from({ length: 100 }, (_, i) => {
  const turn = (i / 50) * Math.PI
  return [40 * Math.cos(turn), 40 * Math.sin(turn), 1, 1, -1, -1] as const
})
let moved = 0
for (const kind of ['rectangle', 'ellipse', 'straight', 'pen'] as const) {
  const path = kind === 'pen' ? { path: [{ at: 0, ease: 'both' as const, points: points as never }] } : {}
  // One that moves is drawn anew in each frame; one that stays is not.
  const masked = (still: boolean) => {
    const mask = maskPlan(
      { shapes: [shape(kind, { ...path, settings: { outer: 40, rotation: still ? 0 : ++moved } })] },
      0,
    )
    return draw([{ ...one('wash'), mask }])
  }
  add(`a mask that stays: ${kind}`, masked(true), 25)
  const began = performance.now()
  for (let i = 0; i < 5; i++) {
    const mask = maskPlan({ shapes: [shape(kind, { ...path, settings: { outer: 40, rotation: ++moved } })] }, 0)
    const effects = { stack: [{ ...one('wash'), mask }], scale: 1, time: 0 }
    const layer = {
      ...{ kind: 'picture' as const, assetId: '', time: 0, width, height, matrix: [1, 0, 0, 1, 0, 0] as const },
      ...{ opacity: 1, alpha: true, effects },
    }
    compositor.compose({ width, height, background: '#000000', layers: [layer], passThrough: false }, [picture])
  }
  add(`a mask that moves: ${kind}`, (performance.now() - began) / 5, 90, kind)
}
table(['effect, 1920 × 1080', 'ms', ''], rows)
