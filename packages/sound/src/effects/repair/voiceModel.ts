// eslint-disable-next-line @typescript-eslint/triple-slash-reference -- types of a package without any; every tsconfig
/// <reference path="./libraries.d.ts" />
import { Renewed } from '../../trap'

/** What the compiled rnnoise library offers. */
export interface VoiceModule {
  _malloc(bytes: number): number
  _rnnoise_create(model: number): number
  _rnnoise_destroy(state: number): void
  _rnnoise_process_frame(state: number, out: number, input: number): number
  HEAPF32: Float32Array
}

/** Samples that the model takes at a time: 10 ms. */
export const VOICE_FRAME = 480

interface Loaded {
  module: VoiceModule
  place: number
}

let wasmUrl: string | null = null
let loaded: Loaded | null = null
const model = new Renewed('The cleaning of voices', async () => {
  const { default: load } = await import('@echogarden/rnnoise-wasm')
  const module = await load(wasmUrl ? { locateFile: () => wasmUrl! } : {})
  return { module, place: module._malloc(VOICE_FRAME * 4) }
})

/** Says where the browser finds the model's WebAssembly; Node finds it by itself. */
export function setVoiceModelUrl(url: string): void {
  wasmUrl = url
}

/** Loads the model; once, however often it is called, and anew after it trapped. */
export async function loadVoiceModel(): Promise<void> {
  loaded = await model.get()
}

/** Goes over the states of voices that nobody holds any more. */
const released = new FinalizationRegistry<{ state: number; of: VoiceModule }>(({ state, of }) => {
  // One that trapped is gone as a whole.
  if (loaded?.module === of) of._rnnoise_destroy(state)
})

/** The model at work on one channel: J.-M. Valin, "A Hybrid DSP/Deep Learning Approach to Real-Time Full-Band Speech
 * Enhancement", MMSP 2018, with the weights that the library ships. */
export class VoiceState {
  private held: { state: number; of: Loaded } | null = null

  /** Cleans a frame in place. {@link loadVoiceModel} has been waited for. */
  run(frame: Float32Array): void {
    if (!loaded) throw new Error('The model for voices was not loaded before it was used.')
    if (!this.held) {
      this.held = { state: loaded.module._rnnoise_create(0), of: loaded }
      released.register(this, { state: this.held.state, of: loaded.module })
    }
    const { state, of } = this.held
    const { module, place } = of
    const memory = module.HEAPF32
    const at = place / 4
    // The model was taught with samples of 16 bits.
    for (let i = 0; i < VOICE_FRAME; i++) memory[at + i] = frame[i]! * 32_768
    model.run(() => module._rnnoise_process_frame(state, place, place))
    for (let i = 0; i < VOICE_FRAME; i++) frame[i] = module.HEAPF32[at + i]! / 32_768
  }
}
