import { readFileSync } from 'node:fs'
import { Compositor, createEngine, Picture, TRANSITIONS } from '@dusk/compositor'
import { BLEND_MODES, type FramePlan, type LayerPlan, type PlacedLayer } from '@dusk/timeline'
import { table, time } from './table'

/** Milliseconds a 1080p frame that every transition, blend mode, blur and edge takes, alone, single-threaded. */
const engine = await createEngine(readFileSync(new URL('../packages/compositor/build/kernels.wasm', import.meta.url)))
const compositor = new Compositor(engine)
const [width, height] = [1920, 1080]
const pictures = [1, 2].map((seed) => {
  const picture = Picture.rgba(engine, width, height)
  picture.bytes().forEach((_, i, bytes) => (bytes[i] = i % 4 === 3 ? 255 : (i * 2654435761 * seed) >>> 24))
  return picture
})
const base: PlacedLayer = {
  kind: 'picture',
  assetId: '',
  time: 0,
  width,
  height,
  matrix: [1, 0, 0, 1, 0, 0],
  opacity: 1,
  alpha: false,
}
const draw = (layers: LayerPlan[]) => {
  const plan: FramePlan = { width, height, background: '#000000', layers, passThrough: false }
  const shown = layers.flatMap((layer) => (layer.kind === 'transition' ? pictures : [pictures[0]!]))
  return time(() => compositor.compose(plan, shown), 5)
}
const both = draw([base, base])
const rows: (string | number)[][] = [['two whole pictures laid down, without a transition', both]]
for (const kind of TRANSITIONS) {
  const at = [0.3, 0.6].map((progress) =>
    draw([{ kind: 'transition', transition: kind.id, settings: {}, progress, from: base, to: base }]),
  )
  rows.push([`${kind.family}: ${kind.name}`, Math.max(...at)])
}
for (const mode of BLEND_MODES)
  if (mode !== 'normal') rows.push([`blend: ${mode}`, draw([base, { ...base, blend: mode }])])
const EDGE = {
  crop: { left: 0.1, right: 0.1, top: 0.1, bottom: 0.1 },
  feather: 0,
  cornerRadius: 60,
  border: 8,
  borderColour: '#ffffff',
  shadow: null,
  reflection: null,
}
rows.push(['frame style: crop, corners and border', draw([{ ...base, frameStyle: EDGE }])])
rows.push([
  'frame style: with a soft shadow',
  draw([{ ...base, frameStyle: { ...EDGE, shadow: { strength: 0.8, x: 20, y: 20, blur: 40, colour: '#000000' } } }]),
])
rows.push([
  'filling: blur of itself',
  draw([{ ...base, matrix: [0.5, 0, 0, 1, 480, 0], backgroundFill: { kind: 'blur', matrix: [1, 0, 0, 1, 0, 0] } }]),
])
rows.push([
  'motion blur of 12 samples',
  draw([{ ...base, motionBlur: Array.from({ length: 12 }, (_, i) => [1, 0, 0, 1, i * 4, 0] as const) }]),
])

const n = width * height
const [a, b] = [pictures[0]!.address(), pictures[1]!.address()]
const out = Picture.rgba(engine, width, height)
rows.push(['kernel: dissolve (12 at most)', time(() => engine.kernels.dissolve(a, b, out.address(), n, 16_384))])
const map = engine.heap.allocate(n * 2)
engine.kernels.lightMap(a, map, n, 0)
rows.push([
  'kernel: mix by a map',
  time(() => engine.kernels.mixByMap(a, b, map, out.address(), n, 0.5, 2, 255, 255, 255, 0.5)),
])
const sums = engine.heap.allocate(width * 16)
rows.push(['kernel: blur rows, radius 8', time(() => engine.kernels.blurRows(a, out.address(), width, height, 8))])
rows.push([
  'kernel: blur columns, radius 8',
  time(() => engine.kernels.blurColumns(a, out.address(), width, height, 8, sums)),
])
const over = rows.filter(([name, ms]) => !String(name).startsWith('motion') && Number(ms) - both > 60)
table(['at 1920 × 1080', 'ms'], rows)
const more = over.length > 0 ? `; more: ${over.map(([name]) => name).join(', ')}` : ''
console.log(
  `\n${rows.length - over.length} of ${rows.length} take at most 60 ms beyond laying the pictures down${more}`,
)
