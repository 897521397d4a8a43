import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { createCanvas } from '@napi-rs/canvas'
import { createEngine } from '@dusk/compositor'
import { drawSheets, HEIGHT, WIDTH, type Row } from '../../packages/compositor/test/golden/draw'
import { ROOT, type Options } from './options'
import { buildKernels } from './build'

/**
 * Draws every transition and blend mode small. Without options it writes labelled contact sheets to look at; with
 * `--accept` it writes the pictures that the tests hold the compositor to.
 */
export async function run(options: Options): Promise<void> {
  await buildKernels()
  const engine = await createEngine(readFileSync(join(ROOT, 'packages/compositor/build/kernels.wasm')))
  const accept = options.accept === true
  const folder = accept ? join(ROOT, 'packages/compositor/test/golden') : join(ROOT, 'test-results/golden')
  mkdirSync(folder, { recursive: true })
  for (const [name, rows] of drawSheets(engine)) {
    const path = join(folder, `${name}.png`)
    writeFileSync(path, accept ? plainSheet(rows) : contactSheet(rows))
    console.log(path)
  }
  if (!accept) console.log('Look at them. When they are right: ./dusk golden --accept')
}

function place(
  context: ReturnType<ReturnType<typeof createCanvas>['getContext']>,
  pixels: Uint8Array,
  x: number,
  y: number,
): void {
  const image = context.createImageData(WIDTH, HEIGHT)
  image.data.set(pixels)
  context.putImageData(image, x, y)
}

/** Rows of three pictures and nothing else. */
function plainSheet(rows: Row[]): Buffer {
  const canvas = createCanvas(WIDTH * 3, HEIGHT * rows.length)
  const context = canvas.getContext('2d')
  for (const [i, row] of rows.entries())
    for (const [k, pixels] of row.pictures.entries()) place(context, pixels, k * WIDTH, i * HEIGHT)
  return canvas.toBuffer('image/png')
}

/** The same with names, three rows side by side. */
function contactSheet(rows: Row[]): Buffer {
  const [cell, line] = [WIDTH * 3 + 16, HEIGHT + 22]
  const canvas = createCanvas(cell * 3, line * Math.ceil(rows.length / 3))
  const context = canvas.getContext('2d')
  context.fillStyle = '#16131c'
  context.fillRect(0, 0, canvas.width, canvas.height)
  context.font = '12px sans-serif'
  context.fillStyle = '#f3ece2'
  for (const [i, row] of rows.entries()) {
    const [x, y] = [(i % 3) * cell, Math.floor(i / 3) * line]
    context.fillText(row.name, x + 2, y + 14)
    for (const [k, pixels] of row.pictures.entries()) place(context, pixels, x + k * (WIDTH + 2), y + 18)
  }
  return canvas.toBuffer('image/png')
}
