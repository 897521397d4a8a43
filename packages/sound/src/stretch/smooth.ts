import type { StretchEngine, Stretcher } from './engine'

/** What the compiled library of signalsmith-stretch offers; built by `scripts/dusk/build.ts`. */
export interface SmoothModule {
  _main(): void
  _presetDefault(channels: number, sampleRate: number): void
  _setBuffers(channels: number, samples: number): number
  _setTransposeSemitones(semitones: number, tonality: number): void
  _reset(): void
  _process(inSamples: number, outSamples: number): void
  _inputLatency(): number
  _outputLatency(): number
  HEAP8?: { buffer: ArrayBuffer }
  exports?: { memory: WebAssembly.Memory }
}

/** Most samples in or out at a time. */
const MOST = 32_768

/** Frequency above which partials keep their distance when the pitch is shifted, as a part of the sample rate. */
const TONALITY = 8000 / 48_000

/** Smooth stretching by spectrum, for music and by default. @param load makes a fresh instance of the library */
export function smoothEngine(load: () => Promise<SmoothModule>): Promise<StretchEngine> {
  return load().then((module) => {
    // The library holds one stretcher: whoever is at work has it to itself until it is released.
    module._main()
    module._presetDefault(2, 48_000)
    const place = module._setBuffers(2, MOST)
    const heap = () => new Float32Array(module.exports ? module.exports.memory.buffer : module.HEAP8!.buffer)
    return {
      create(semitones): Stretcher {
        module._reset()
        module._setTransposeSemitones(semitones, TONALITY)
        return {
          inputLatency: module._inputLatency(),
          outputLatency: module._outputLatency(),
          process(input, count) {
            const [base, n] = [place / 4, input.length / 2]
            const out = new Float32Array(count * 2)
            // At high speeds one step takes more than there is room for at a time.
            const parts = Math.max(1, Math.ceil(Math.max(n, count) / MOST))
            for (let part = 0; part < parts; part++) {
              const [from, to] = [Math.floor((n * part) / parts), Math.floor((n * (part + 1)) / parts)]
              const [first, last] = [Math.floor((count * part) / parts), Math.floor((count * (part + 1)) / parts)]
              const memory = heap()
              for (let i = from; i < to; i++) {
                memory[base + i - from] = input[i * 2]!
                memory[base + MOST + i - from] = input[i * 2 + 1]!
              }
              module._process(to - from, last - first)
              const after = heap()
              for (let i = first; i < last; i++) {
                out[i * 2] = after[base + 2 * MOST + i - first]!
                out[i * 2 + 1] = after[base + 3 * MOST + i - first]!
              }
            }
            return out
          },
          release() {},
        }
      },
    }
  })
}
