import { createRequire } from 'node:module'
import { readFile } from 'node:fs/promises'
import { CanvasKitRenderer, type VectorRenderer, type Engine } from '@dusk/compositor'

const require = createRequire(import.meta.url)

/** A room for words and shapes, with the fonts that ship with Dusk Reel. */
export async function nodeVectorRenderer(engine: Engine): Promise<VectorRenderer> {
  const init = require('canvaskit-wasm/bin/full/canvaskit.js') as (typeof import('canvaskit-wasm'))['default']
  const ck = await init({ locateFile: (name) => require.resolve(`canvaskit-wasm/bin/full/${name}`) })
  return new CanvasKitRenderer(ck, engine, async (path) => new Uint8Array(await readFile(require.resolve(path))))
}
