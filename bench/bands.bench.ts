import { readFileSync } from 'node:fs'
import { Worker } from 'node:worker_threads'
import { bandHelp, Compositor, createBandEngine, createEngine, Picture, type Engine } from '@dusk/compositor'
import type { FramePlan, LayerPlan, PlacedLayer } from '@dusk/timeline'
import { table, time } from './table'

/** What a second drawing thread takes off a frame when there is a processor for it. */
const wasm = (name: string) => readFileSync(new URL(`../packages/compositor/build/${name}.wasm`, import.meta.url))
const [width, height] = [1920, 1080]
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
const change = (transition: string): LayerPlan => ({
  kind: 'transition',
  transition,
  settings: {},
  progress: 0.4,
  from: base,
  to: base,
})
const frames: [string, LayerPlan[]][] = [
  ['a layer enlarged by 1.5', [{ ...base, matrix: [1.5, 0, 0, 1.5, -480, -270] }]],
  ['a layer turned', [{ ...base, matrix: [0.9, 0.2, -0.2, 0.9, 100, 0] }]],
  ['two layers, one halved and half there', [base, { ...base, matrix: [0.5, 0, 0, 0.5, 300, 200], opacity: 0.5 }]],
  ['dissolve', [change('dissolve')]],
  ['wipe', [change('wipe')]],
  ['whirl', [change('whirl')]],
  ['blend: hue', [base, { ...base, blend: 'hue' }]],
]
function times(engine: Engine): number[] {
  const compositor = new Compositor(engine)
  const pictures = [1, 2].map((seed) => {
    const picture = Picture.i420(engine, width, height)
    picture.bytes().forEach((_, i, bytes) => (bytes[i] = (i * 2654435761 * seed) >>> 24))
    return picture
  })
  return frames.map(([, layers]) => {
    const plan: FramePlan = { width, height, background: '#000000', layers, passThrough: false }
    // Planes are turned to pixels in each frame, as when a film plays.
    return time(() => {
      pictures.forEach((picture) => picture.changed())
      compositor.compose(plan, pictures)
    }, 9)
  })
}
const alone = times(await createEngine(wasm('kernels')))
const { engine, share } = await createBandEngine(wasm('kernels.shared'))
const worker = new Worker(new URL('../packages/compositor/test/bandWorker.mjs', import.meta.url), { workerData: share })
while (!bandHelp(share.control).there) await new Promise((resolve) => setTimeout(resolve, 20))
const both = times(engine)
await worker.terminate()
table(
  ['at 1920 × 1080, ms', 'one thread', 'two', 'times as fast'],
  frames.map(([name], i) => [name, alone[i]!, both[i]!, alone[i]! / both[i]!]),
)
process.exit(0)
