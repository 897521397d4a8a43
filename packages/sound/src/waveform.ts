/**
 * A waveform at several scales: for each step of 256, 1024, 4096 … samples the lowest and highest value of every
 * channel, as signed bytes (127 is full scale). Drawing subclips the level nearest to its pixels.
 *
 * File: `DUSKWAV1`, u32 channels, u32 base step, f64 samples, u32 number of levels, 4 bytes zero; then level after
 * level, in each channel after channel, pairs of min, max. Level n has ⌈samples / (base · 4ⁿ)⌉ pairs a channel.
 */
export const WAVEFORM_BASE = 256
const GROWTH = 4
const HEADER = 32
const MAGIC = 'DUSKWAV1'

/** Collects samples as they are decoded. */
export class WaveformBuilder {
  private readonly pairs: number[][]
  private readonly low: Float64Array
  private readonly high: Float64Array
  private filled = 0
  private samples = 0

  constructor(private readonly channels: number) {
    this.pairs = Array.from({ length: channels }, () => [])
    this.low = new Float64Array(channels).fill(Infinity)
    this.high = new Float64Array(channels).fill(-Infinity)
  }

  /** @param block interleaved samples, whole frames */
  push(block: Float32Array): void {
    const { channels, low, high } = this
    const n = block.length / channels
    for (let i = 0; i < n; i++) {
      for (let c = 0; c < channels; c++) {
        const value = block[i * channels + c]!
        if (value < low[c]!) low[c] = value
        if (value > high[c]!) high[c] = value
      }
      if (++this.filled === WAVEFORM_BASE) this.close()
    }
    this.samples += n
  }

  private close(): void {
    for (let c = 0; c < this.channels; c++)
      this.pairs[c]!.push(toByte(this.low[c]!, Math.floor), toByte(this.high[c]!, Math.ceil))
    this.low.fill(Infinity)
    this.high.fill(-Infinity)
    this.filled = 0
  }

  /** The finished file. */
  finish(): Uint8Array {
    if (this.filled > 0) this.close()
    const levels: Int8Array[][] = [this.pairs.map((list) => Int8Array.from(list))]
    while (levels.at(-1)![0]!.length > 2 * 512) levels.push(levels.at(-1)!.map(coarser))
    const size = levels.flat().reduce((sum, list) => sum + list.length, HEADER)
    const bytes = new Uint8Array(size)
    bytes.set(new TextEncoder().encode(MAGIC))
    const view = new DataView(bytes.buffer)
    view.setUint32(8, this.channels, true)
    view.setUint32(12, WAVEFORM_BASE, true)
    view.setFloat64(16, this.samples, true)
    view.setUint32(24, levels.length, true)
    let at = HEADER
    for (const list of levels.flat()) {
      bytes.set(new Uint8Array(list.buffer), at)
      at += list.length
    }
    return bytes
  }
}

function toByte(value: number, round: (x: number) => number): number {
  return Math.min(Math.max(round(value * 127), -128), 127)
}

function coarser(list: Int8Array): Int8Array {
  const out = new Int8Array(Math.ceil(list.length / 2 / GROWTH) * 2)
  for (let i = 0; i < out.length / 2; i++) {
    let low = 127
    let high = -128
    for (let k = i * GROWTH; k < Math.min((i + 1) * GROWTH, list.length / 2); k++) {
      low = Math.min(low, list[k * 2]!)
      high = Math.max(high, list[k * 2 + 1]!)
    }
    out[i * 2] = low
    out[i * 2 + 1] = high
  }
  return out
}

/** A waveform read back. */
export interface Waveform {
  channels: number
  samples: number
  levels: { step: number; channels: Int8Array[] }[]
}

/** @throws {Error} when the bytes are not a waveform */
export function readWaveform(bytes: Uint8Array): Waveform {
  if (bytes.length < HEADER || new TextDecoder().decode(bytes.subarray(0, 8)) !== MAGIC)
    throw new Error('This is not a waveform.')
  const view = new DataView(bytes.buffer, bytes.byteOffset)
  const channels = view.getUint32(8, true)
  const base = view.getUint32(12, true)
  const samples = view.getFloat64(16, true)
  const count = view.getUint32(24, true)
  const levels: Waveform['levels'] = []
  let at = HEADER
  let pairs = Math.ceil(samples / base)
  let step = base
  for (let level = 0; level < count; level++) {
    const lists: Int8Array[] = []
    for (let c = 0; c < channels; c++) {
      lists.push(new Int8Array(bytes.buffer, bytes.byteOffset + at, pairs * 2))
      at += pairs * 2
    }
    levels.push({ step, channels: lists })
    step *= GROWTH
    pairs = Math.ceil(pairs / GROWTH)
  }
  return { channels, samples, levels }
}

/** The coarsest level whose step is not above `samplesPerPixel`; the finest when all are. */
export function waveformLevel(waveform: Waveform, samplesPerPixel: number): Waveform['levels'][number] {
  let best = waveform.levels[0]!
  for (const level of waveform.levels) if (level.step <= samplesPerPixel) best = level
  return best
}
