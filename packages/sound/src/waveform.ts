/**
 * A waveform at several scales: for each step of 256, 1024, 4096 … samples the lowest and highest value of every
 * channel and the root of its mean square, as signed bytes (127 is full scale). Drawing takes the level nearest to its
 * pixels.
 *
 * File: `DUSKWAV2`, u32 channels, u32 base step, f64 samples, u32 number of levels, 4 bytes zero; then level after
 * level, in each channel after channel, triples of min, max, mean: ⌈samples / (base · 4ⁿ)⌉ a channel on level n.
 */
export const WAVEFORM_BASE = 256
const GROWTH = 4
const HEADER = 32
/** Numbers for each step: lowest, highest, mean. */
export const WAVEFORM_PARTS = 3
const MAGIC = 'DUSKWAV2'

/** Collects samples as they are decoded. */
export class WaveformBuilder {
  private readonly parts: number[][]
  private readonly low: Float64Array
  private readonly high: Float64Array
  private readonly sum: Float64Array
  private filled = 0
  private samples = 0

  constructor(private readonly channels: number) {
    this.parts = Array.from({ length: channels }, () => [])
    this.low = new Float64Array(channels).fill(Infinity)
    this.high = new Float64Array(channels).fill(-Infinity)
    this.sum = new Float64Array(channels)
  }

  /** @param block interleaved samples, whole frames */
  push(block: Float32Array): void {
    const { channels, low, high, sum } = this
    const n = block.length / channels
    for (let i = 0; i < n; i++) {
      for (let c = 0; c < channels; c++) {
        const value = block[i * channels + c]!
        if (value < low[c]!) low[c] = value
        if (value > high[c]!) high[c] = value
        sum[c]! += value * value
      }
      if (++this.filled === WAVEFORM_BASE) this.close()
    }
    this.samples += n
  }

  private close(): void {
    for (let c = 0; c < this.channels; c++)
      this.parts[c]!.push(
        toByte(this.low[c]!, Math.floor),
        toByte(this.high[c]!, Math.ceil),
        toByte(Math.sqrt(this.sum[c]! / this.filled), Math.round),
      )
    this.low.fill(Infinity)
    this.high.fill(-Infinity)
    this.sum.fill(0)
    this.filled = 0
  }

  /** The finished file. */
  finish(): Uint8Array {
    if (this.filled > 0) this.close()
    const levels: Int8Array[][] = [this.parts.map((list) => Int8Array.from(list))]
    while (levels.at(-1)![0]!.length > WAVEFORM_PARTS * 512) levels.push(levels.at(-1)!.map(coarser))
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
  const steps = list.length / WAVEFORM_PARTS
  const out = new Int8Array(Math.ceil(steps / GROWTH) * WAVEFORM_PARTS)
  for (let i = 0; i < out.length / WAVEFORM_PARTS; i++) {
    let [low, high, sum] = [127, -128, 0]
    const last = Math.min((i + 1) * GROWTH, steps)
    for (let k = i * GROWTH; k < last; k++) {
      low = Math.min(low, list[k * WAVEFORM_PARTS]!)
      high = Math.max(high, list[k * WAVEFORM_PARTS + 1]!)
      sum += list[k * WAVEFORM_PARTS + 2]! ** 2
    }
    out[i * WAVEFORM_PARTS] = low
    out[i * WAVEFORM_PARTS + 1] = high
    out[i * WAVEFORM_PARTS + 2] = Math.round(Math.sqrt(sum / (last - i * GROWTH)))
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
  let steps = Math.ceil(samples / base)
  let step = base
  for (let level = 0; level < count; level++) {
    const lists: Int8Array[] = []
    for (let c = 0; c < channels; c++) {
      lists.push(new Int8Array(bytes.buffer, bytes.byteOffset + at, steps * WAVEFORM_PARTS))
      at += steps * WAVEFORM_PARTS
    }
    levels.push({ step, channels: lists })
    step *= GROWTH
    steps = Math.ceil(steps / GROWTH)
  }
  return { channels, samples, levels }
}

/** The coarsest level whose step is not above `samplesPerPixel`; the finest when all are. */
export function waveformLevel(waveform: Waveform, samplesPerPixel: number): Waveform['levels'][number] {
  let best = waveform.levels[0]!
  for (const level of waveform.levels) if (level.step <= samplesPerPixel) best = level
  return best
}
