import { createRequire } from 'node:module'
import { readFile } from 'node:fs/promises'
import { CanvasKitRenderer, givenHash, type VectorRenderer, type Engine } from '@dusk/compositor'
import type { Storage } from '@dusk/media'
import { RenderFailed } from './request'

const require = createRequire(import.meta.url)

/** A room for words and shapes, with the fonts that ship with Dusk Reel and those of the person's own. */
export async function nodeVectorRenderer(engine: Engine, storage: Storage): Promise<VectorRenderer> {
  const init = require('canvaskit-wasm/bin/full/canvaskit.js') as (typeof import('canvaskit-wasm'))['default']
  const ck = await init({ locateFile: (name) => require.resolve(`canvaskit-wasm/bin/full/${name}`) })
  return new CanvasKitRenderer(ck, engine, async (path) => {
    const hash = givenHash(path)
    if (hash) await storage.fetch(storage.given(hash))
    const bytes = await readFile(hash ? storage.given(hash) : require.resolve(path)).catch((error: Error) => {
      if (!hash) throw error
      throw new RenderFailed(
        'The font file of a title is not there. Choose another font for it, or add the file again.',
      )
    })
    return new Uint8Array(bytes)
  })
}
