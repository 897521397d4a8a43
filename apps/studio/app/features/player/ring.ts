/**
 * The ring of samples between the mix worker, which fills it, and the audio worklet, which empties it. Shared memory;
 * each side writes only its own counters.
 */
export const RING_FRAMES = 48_000

/** Places in the control block. Counters are frames since play began. */
export const CONTROL = {
  written: 0,
  played: 1,
  /** 1 while the worklet takes samples. */
  running: 2,
  /** Times the worklet found nothing. */
  underruns: 3,
  /** Loudest sample of each side since it was last read, in millionths. */
  peakLeft: 4,
  peakRight: 5,
  /** Clock of the sound card, in samples, at the last block that was taken; 31 bits of it. */
  clock: 6,
} as const

export interface Ring {
  control: Int32Array<SharedArrayBuffer>
  samples: Float32Array<SharedArrayBuffer>
}

const CONTROL_BYTES = 64

export function createRingMemory(): SharedArrayBuffer {
  return new SharedArrayBuffer(CONTROL_BYTES + RING_FRAMES * 2 * 4)
}

export function openRing(memory: SharedArrayBuffer): Ring {
  return { control: new Int32Array(memory, 0, CONTROL_BYTES / 4), samples: new Float32Array(memory, CONTROL_BYTES) }
}

/** Frames that can be written now. */
export function ringSpace({ control }: Ring): number {
  return RING_FRAMES - (Atomics.load(control, CONTROL.written) - Atomics.load(control, CONTROL.played))
}

/** Appends interleaved stereo. The caller has made sure that there is space. */
export function writeRing({ control, samples }: Ring, block: Float32Array): void {
  const written = Atomics.load(control, CONTROL.written)
  const at = (written % RING_FRAMES) * 2
  const first = Math.min(block.length, samples.length - at)
  samples.set(block.subarray(0, first), at)
  if (first < block.length) samples.set(block.subarray(first), 0)
  Atomics.store(control, CONTROL.written, written + block.length / 2)
}

/**
 * Puts interleaved stereo over what was written from frame `at` on; what lay beyond it is gone. It passes from the old
 * to the new over `passing` frames, where there is anything old.
 */
export function overwriteRing({ control, samples }: Ring, block: Float32Array, at: number, passing: number): void {
  const written = Atomics.load(control, CONTROL.written)
  const frames = block.length / 2
  for (let i = 0; i < frames; i++) {
    const place = ((at + i) % RING_FRAMES) * 2
    const t = at + i < written ? Math.min(1, (i + 0.5) / passing) : 1
    samples[place] = samples[place]! * (1 - t) + block[i * 2]! * t
    samples[place + 1] = samples[place + 1]! * (1 - t) + block[i * 2 + 1]! * t
  }
  Atomics.store(control, CONTROL.written, at + frames)
}

/** Takes up to `left.length` frames; the rest is silence. Returns how many there were. */
export function readRing({ control, samples }: Ring, left: Float32Array, right: Float32Array): number {
  const played = Atomics.load(control, CONTROL.played)
  const there = Math.min(left.length, Atomics.load(control, CONTROL.written) - played)
  for (let i = 0; i < there; i++) {
    const at = ((played + i) % RING_FRAMES) * 2
    left[i] = samples[at]!
    right[i] = samples[at + 1]!
  }
  left.fill(0, there)
  right.fill(0, there)
  Atomics.store(control, CONTROL.played, played + there)
  return there
}
