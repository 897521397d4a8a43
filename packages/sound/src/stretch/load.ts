// eslint-disable-next-line @typescript-eslint/triple-slash-reference -- types of packages without any; every tsconfig
/// <reference path="./libraries.d.ts" />
import { crispEngine } from './crisp'
import type { StretchEngine, StretchEngines } from './engine'
import { smoothEngine } from './smooth'

/** Does something once, when it is first asked for. */
function once<T>(make: () => Promise<T>): () => Promise<T> {
  let found: Promise<T> | null = null
  return () => (found ??= make())
}

/**
 * The stretching engines, loaded when they are first needed.
 * @param crispWasm where the browser finds the WebAssembly of the crisp one; Node finds it by itself
 */
export function stretchEngines(crispWasm?: string): StretchEngines {
  return {
    music: once<StretchEngine>(() => smoothEngine(async () => (await import('@dusk/sound/smooth-stretch')).default())),
    speech: once<StretchEngine>(() =>
      crispEngine(async () =>
        (await import('@echogarden/sonic-wasm')).default(crispWasm ? { locateFile: () => crispWasm } : {}),
      ),
    ),
  }
}
