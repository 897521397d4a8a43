// eslint-disable-next-line @typescript-eslint/triple-slash-reference -- types of packages without any; every tsconfig
/// <reference path="./libraries.d.ts" />
import { crispEngine } from './crisp'
import type { StretchEngine, StretchEngines } from './engine'
import { smoothEngine } from './smooth'
import { Renewed } from '../trap'

/** An engine that is loaded when it is first needed, and anew after it trapped. */
function renewed(make: () => Promise<StretchEngine>): () => Promise<StretchEngine> {
  const module = new Renewed('The stretching of sound', make)
  return async () => {
    const engine = await module.get()
    return {
      create: (semitones) => {
        const stretcher = module.run(() => engine.create(semitones))
        return {
          ...stretcher,
          process: (input, count) => module.run(() => stretcher.process(input, count)),
          // What trapped is thrown away as a whole.
          release: () => void module.run(() => stretcher.release()),
        }
      },
    }
  }
}

/**
 * The stretching engines, loaded when they are first needed.
 * @param crispWasm where the browser finds the WebAssembly of the crisp one; Node finds it by itself
 */
export function stretchEngines(crispWasm?: string): StretchEngines {
  return {
    music: renewed(() => smoothEngine(async () => (await import('@dusk/sound/smooth-stretch')).default())),
    speech: renewed(() =>
      crispEngine(async () =>
        (await import('@echogarden/sonic-wasm')).default(crispWasm ? { locateFile: () => crispWasm } : {}),
      ),
    ),
  }
}
