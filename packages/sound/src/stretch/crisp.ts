import { exp2 } from '../dsp/maths'
import type { StretchEngine, Stretcher } from './engine'
import { resampleAt, resampleReach } from './resample'
import { ModuleTrapped } from '../trap'

/** What the compiled Sonic library offers. */
export interface CrispModule {
  _malloc(bytes: number): number
  _sonicCreateStream(sampleRate: number, channels: number): number
  _sonicDestroyStream(stream: number): void
  _sonicSetSpeed(stream: number, speed: number): void
  _sonicWriteFloatToStream(stream: number, samples: number, count: number): number
  _sonicReadFloatFromStream(stream: number, samples: number, most: number): number
  _sonicSamplesAvailable(stream: number): number
  HEAPF32: Float32Array
}

/** Most samples in or out at a time. */
const MOST = 32_768
/** Samples of input that have to be there before the first come out: two of the longest periods it looks for, */
const PERIODS = 1536
/** and one more to spare, as it gives whole periods and is behind by less than one. */
const SPARE = 768
const AHEAD = PERIODS + SPARE
/** The part of being ahead or behind that is made up for in each step. */
const STEERING = 0.15

/** Samples that come in at one end and are taken from the other. */
class Queue {
  private samples: Float32Array = new Float32Array(0)
  /** Samples taken so far. */
  taken = 0

  push(more: Float32Array): void {
    const all = new Float32Array(this.samples.length + more.length)
    all.set(this.samples)
    all.set(more, this.samples.length)
    this.samples = all
  }

  get waiting(): Float32Array {
    return this.samples
  }

  drop(count: number): void {
    const n = Math.min(count, this.samples.length / 2)
    this.samples = this.samples.slice(n * 2)
    this.taken += n
  }
}

/**
 * Stretching by whole periods of the wave, for speech, footsteps and clicks. A shift of pitch is made by stretching to
 * another length and winding that back: the library's own shift writes beyond its memory when speeds change.
 */
export function crispEngine(load: () => Promise<CrispModule>): Promise<StretchEngine> {
  return load().then((module) => {
    const place = module._malloc(MOST * 8)
    return {
      create(semitones): Stretcher {
        const stream = module._sonicCreateStream(48_000, 2)
        const ratio = exp2(semitones / 12)
        const reach = ratio === 1 ? 0 : resampleReach(ratio)
        const queue = new Queue()
        /** Stretched samples that should have come by now, those that did, and where the output has got to in them. */
        let [wanted, given, position] = [0, 0, 0]
        const latency = AHEAD + Math.ceil(reach / ratio)
        const stretch = (input: Float32Array, count: number) => {
          const n = input.length / 2
          if (n > 0) {
            // What it has to see before it begins says nothing about the speed.
            const speed = wanted === 0 ? Math.max(0.02, (n - latency) / count) : n / count
            // It works by whole periods, so it is a little ahead or behind: the speed keeps that from adding up.
            const ahead = wanted === 0 ? 0 : (given - wanted - SPARE / speed) * STEERING
            const due = count - Math.min(Math.max(ahead, -count), count / 2)
            module._sonicSetSpeed(stream, Math.min(Math.max((speed * count) / due, 0.02), 100))
            // At high speeds one step takes more than there is room for at a time.
            for (let at = 0; at < n; at += MOST) {
              const part = input.subarray(at * 2, Math.min(n, at + MOST) * 2)
              module.HEAPF32.set(part, place / 4)
              if (!module._sonicWriteFloatToStream(stream, place, part.length / 2))
                throw new ModuleTrapped('The stretching of sound', new Error('It has no memory left.'))
            }
          }
          wanted += count
          for (;;) {
            const there = Math.min(module._sonicSamplesAvailable(stream), MOST)
            if (there <= 0) return
            const read = module._sonicReadFloatFromStream(stream, place, there)
            if (read <= 0) return
            given += read
            queue.push(module.HEAPF32.slice(place / 4, place / 4 + read * 2))
          }
        }
        return {
          inputLatency: latency,
          outputLatency: Math.ceil(reach / ratio),
          process(input, count) {
            stretch(input, count * ratio)
            const out = new Float32Array(count * 2)
            if (ratio === 1) {
              out.set(queue.waiting.subarray(0, count * 2))
              queue.drop(count)
              return out
            }
            for (let i = 0; i < count; i++, position += ratio) {
              const at = position - reach - queue.taken
              const [l, r] = resampleAt(queue.waiting, at, ratio)
              out[i * 2] = l
              out[i * 2 + 1] = r
            }
            queue.drop(Math.max(0, Math.floor(position - 2 * reach - 2 - queue.taken)))
            return out
          },
          release: () => module._sonicDestroyStream(stream),
        }
      },
    }
  })
}
