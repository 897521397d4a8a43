import { CONTROL, openRing, type Ring } from './ring'
import type { RecordedPiece } from './soundInput'

declare const registerProcessor: (name: string, processor: unknown) => void
declare const currentFrame: number
declare class AudioWorkletProcessor {
  readonly port: MessagePort
}

/** Samples handed over at a time: 43 ms. */
const PIECE = 2048

/** Hands what the microphone hears over in pieces, each with the place in the ring that was played at its beginning. */
class Recorder extends AudioWorkletProcessor {
  private ring: Ring | null = null
  private samples = new Float32Array(PIECE)
  private filled = 0
  private begun = { clock: 0, played: -1 }

  constructor() {
    super()
    this.port.onmessage = ({ data }: MessageEvent<SharedArrayBuffer>) => (this.ring = openRing(data))
  }

  process(inputs: Float32Array[][]): boolean {
    const input = inputs[0] ?? []
    const n = input[0]?.length ?? 0
    if (n === 0) return true
    if (this.filled === 0) this.begun = { clock: currentFrame, played: this.played(n) }
    // A voice is one source: the channels of its microphone become one.
    for (let i = 0; i < n; i++) {
      let sum = 0
      for (const channel of input) sum += channel[i]!
      this.samples[this.filled + i] = sum / input.length
    }
    this.filled += n
    if (this.filled < PIECE) return true
    const piece: RecordedPiece = { ...this.begun, samples: this.samples }
    this.port.postMessage(piece, [this.samples.buffer])
    this.samples = new Float32Array(PIECE)
    this.filled = 0
    return true
  }

  /** Samples of the ring that were played before this block; −1 while none are. */
  private played(n: number): number {
    const { ring } = this
    if (!ring || Atomics.load(ring.control, CONTROL.running) === 0) return -1
    const played = Atomics.load(ring.control, CONTROL.played)
    // The ring may have been asked for this block already, or not yet.
    const taken = Atomics.load(ring.control, CONTROL.clock) === (currentFrame & 0x7fffffff)
    return Math.max(0, taken ? played - n : played)
  }
}

registerProcessor('recorder', Recorder)
