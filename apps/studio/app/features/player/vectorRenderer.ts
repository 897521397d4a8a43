import init from 'canvaskit-wasm/bin/full/canvaskit.js'
import wasmUrl from 'canvaskit-wasm/bin/full/canvaskit.wasm?url'
import { CanvasKitRenderer, type VectorRenderer, type Engine } from '@dusk/compositor'

/** Addresses of the shipped fonts' files by their path under node_modules. */
const FILES = import.meta.glob<string>(
  [
    '../../../../node_modules/@fontsource-variable/*/files/*-wght-*.woff2',
    '../../../../node_modules/@fontsource/noto-color-emoji/files/noto-color-emoji-emoji-400-normal.woff2',
  ],
  { query: '?url', import: 'default', eager: true },
)
const urls = new Map(Object.entries(FILES).map(([path, url]) => [path.slice(path.indexOf('node_modules/') + 13), url]))

/** A room for words and shapes; its code (8 MB) is fetched when there is something to draw. */
export async function browserVectorRenderer(engine: Engine): Promise<VectorRenderer> {
  const ck = await init({ locateFile: () => wasmUrl })
  return new CanvasKitRenderer(ck, engine, async (path) => {
    const url = urls.get(path)
    const response = url ? await fetch(url) : null
    if (!response?.ok) throw new Error(`A font could not be read (${path.split('/').pop()}).`)
    return new Uint8Array(await response.arrayBuffer())
  })
}
