import init from 'canvaskit-wasm/bin/full/canvaskit.js'
import wasmUrl from 'canvaskit-wasm/bin/full/canvaskit.wasm?url'
import { CanvasKitRenderer, givenHash, type VectorRenderer, type Engine } from '@dusk/compositor'
import { FONT_URLS } from './fontUrls'

/** A room for words and shapes; its code (8 MB) is fetched when there is something to draw. */
export async function browserVectorRenderer(engine: Engine): Promise<VectorRenderer> {
  const ck = await init({ locateFile: () => wasmUrl })
  return new CanvasKitRenderer(ck, engine, async (path) => {
    const hash = givenHash(path)
    const url = hash ? `/api/fonts/${hash}` : FONT_URLS.get(path)
    const response = url ? await fetch(url) : null
    if (hash && response?.status === 404) return null
    if (!response?.ok) throw new Error(`A font could not be read (${path.split('/').pop()}).`)
    return new Uint8Array(await response.arrayBuffer())
  })
}
