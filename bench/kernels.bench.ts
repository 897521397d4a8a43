import { readFileSync } from 'node:fs'
import { Compositor, createEngine, Picture } from '@dusk/compositor'
import { multiply, rotation, scaling, translation, type FramePlan, type Matrix } from '@dusk/timeline'
import { table, time } from './table'

/** Milliseconds a frame that each kernel takes, alone, single-threaded. */
const engine = await createEngine(readFileSync(new URL('../packages/compositor/build/kernels.wasm', import.meta.url)))
const rows: (string | number)[][] = []
const compositor = new Compositor(engine)

function plan(width: number, height: number, source: Picture, matrix: Matrix, opacity = 1): FramePlan {
  return {
    width,
    height,
    background: '#000000',
    passThrough: false,
    layers: [
      {
        kind: 'picture',
        assetId: '',
        time: 0,
        width: source.width,
        height: source.height,
        matrix,
        opacity,
        alpha: false,
      },
    ],
  }
}

for (const [width, height] of [
  [1920, 1080],
  [960, 540],
] as const) {
  const name = `${width} × ${height}`
  const planes = Picture.i420(engine, width, height)
  planes.bytes().forEach((_, i, bytes) => (bytes[i] = (i * 2654435761) >>> 24))
  rows.push([`${name}  planes to RGBA`, time(() => (planes.changed(), planes.address()))])
  rows.push([`${name}  RGBA to planes`, time(() => compositor.toI420(planes))])
  const draw = (what: string, source: Picture, matrix: Matrix, opacity = 1) =>
    rows.push([
      `${name}  ${what}`,
      time(() => compositor.compose(plan(width, height, source, matrix, opacity), [source])),
    ])
  draw('one layer, same size', planes, [1, 0, 0, 1, 0, 0])
  draw('one layer, same size, half opacity', planes, [1, 0, 0, 1, 0, 0], 0.5)
  const small = Picture.i420(engine, (width / 3) * 2, (height / 3) * 2)
  draw('one layer, enlarged by 1.5', small, [1.5, 0, 0, 1.5, 0, 0])
  const large = Picture.i420(engine, width * 2, height * 2)
  draw('one layer, halved', large, [0.5, 0, 0, 0.5, 0, 0])
  draw('one layer, moved by part of a pixel', planes, [1, 0, 0, 1, 3.4, 2.3])
  const turned = multiply(
    translation(width / 2, height / 2),
    multiply(multiply(rotation(12), scaling(0.8, 0.8)), translation(-width / 2, -height / 2)),
  )
  draw('one layer, turned and sized', planes, turned)
  for (const picture of [planes, small, large]) picture.release()
}
table(['kernel', 'ms'], rows)
