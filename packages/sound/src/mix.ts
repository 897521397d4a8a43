import type { SoundPlan } from '@dusk/timeline'
import { decibelsToGain } from './decibels'
import { downmix } from './downmix'
import { fadeBlock } from './fade'

/** Interleaved samples of a source. */
export interface SoundBlock {
  channels: number
  samples: Float32Array
}

/**
 * Reads `count` samples from sample `from` of a source's stream. What lies before its start or after its end is left
 * out by the caller; a reader may return fewer than asked for at the end.
 */
export type SoundReader = (assetId: string, stream: number, from: number, count: number) => Promise<SoundBlock>

/**
 * Mixes part of a plan to stereo. Preview and render both call this, block by block; how the blocks are cut makes no
 * difference to a sample.
 * @param from first sample of the plan's range wanted; `count` samples follow
 * @returns interleaved stereo, `count` × 2 values; may exceed ±1
 */
export async function mixRange(plan: SoundPlan, from: number, count: number, read: SoundReader): Promise<Float32Array> {
  const out = new Float32Array(count * 2)
  for (const piece of plan.pieces) {
    const begin = Math.max(piece.at, from)
    // Nothing is heard before a source's first sample.
    const first = Math.max(begin, piece.at - piece.from)
    const end = Math.min(piece.at + piece.length, from + count)
    if (end <= first) continue
    const block = await read(piece.assetId, piece.stream, piece.from + first - piece.at, end - first)
    const faded = piece.fades ? fadeBlock(block, piece.fades, first - piece.at) : block
    addTo(out, first - from, faded, end - first, decibelsToGain(piece.gain))
  }
  return out
}

function addTo(out: Float32Array, at: number, block: SoundBlock, count: number, gain: number): void {
  const { channels, samples } = block
  const { left, right } = downmix(channels)
  const n = Math.min(count, Math.floor(samples.length / channels))
  if (channels <= 2) {
    const second = channels - 1
    for (let i = 0, o = at * 2, s = 0; i < n; i++, o += 2, s += channels) {
      out[o]! += samples[s]! * gain
      out[o + 1]! += samples[s + second]! * gain
    }
    return
  }
  for (let i = 0; i < n; i++) {
    let l = 0
    let r = 0
    for (let c = 0; c < channels; c++) {
      const value = samples[i * channels + c]!
      l += value * left[c]!
      r += value * right[c]!
    }
    out[(at + i) * 2]! += l * gain
    out[(at + i) * 2 + 1]! += r * gain
  }
}
