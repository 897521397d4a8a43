import { CONTROL, openRing, readRing, type Ring } from './ring'

declare const registerProcessor: (name: string, processor: unknown) => void
declare const currentFrame: number
declare class AudioWorkletProcessor {
  readonly port: MessagePort
}

/** Plays what is in the ring. How much it has played is the clock of everything else. */
class RingPlayer extends AudioWorkletProcessor {
  private ring: Ring | null = null

  constructor() {
    super()
    this.port.onmessage = ({ data }: MessageEvent<SharedArrayBuffer>) => (this.ring = openRing(data))
  }

  process(_inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    const { ring } = this
    const [left, right] = outputs[0] ?? []
    if (!ring || !left || !right || Atomics.load(ring.control, CONTROL.running) === 0) return true
    Atomics.store(ring.control, CONTROL.clock, currentFrame & 0x7fffffff)
    if (readRing(ring, left, right) < left.length) Atomics.add(ring.control, CONTROL.underruns, 1)
    let [l, r] = [0, 0]
    for (let i = 0; i < left.length; i++) {
      l = Math.max(l, Math.abs(left[i]!))
      r = Math.max(r, Math.abs(right[i]!))
    }
    raise(ring.control, CONTROL.peakLeft, l)
    raise(ring.control, CONTROL.peakRight, r)
    return true
  }
}

function raise(control: Int32Array, place: number, value: number): void {
  const millionths = Math.round(value * 1e6)
  if (millionths > Atomics.load(control, place)) Atomics.store(control, place, millionths)
}

registerProcessor('ring-player', RingPlayer)
