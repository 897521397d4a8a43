import { describe, expect, it } from 'vitest'
import { delayOf, PROBE } from '../src/index'
import { noiseAt } from './tools'

const SENT = [4000, 33_000, 62_000, 91_000]

/** What a microphone hears of the probes: late, quieter, through an echo, with noise. */
function heard(delay: number, { noise = 0.001, gain = 0.2, echo = 0.4, from = SENT } = {}): Float32Array {
  const out = Float32Array.from({ length: 120_000 }, (_, n) => noise * noiseAt(n))
  for (const at of from)
    for (let i = 0; i < PROBE.length; i++) {
      out[at + delay + i]! += gain * PROBE[i]!
      out[at + delay + i + 1700]! += gain * echo * PROBE[i]!
    }
  return out
}

describe('the way from loudspeaker to microphone', () => {
  it('is found to the sample, through an echo and noise', () => {
    for (const delay of [0, 37, 1440, 9601]) expect(delayOf(heard(delay), SENT)).toBe(delay)
    expect(delayOf(heard(2000, { noise: 0.05 }), SENT)).toBe(2000)
    // The other way round.
    expect(delayOf(heard(500, { gain: -0.1 }), SENT)).toBe(500)
  })

  it('is not guessed where nothing is heard, or too little', () => {
    expect(delayOf(heard(500, { gain: 0 }), SENT)).toBeNull()
    expect(delayOf(heard(500, { gain: 0, noise: 0.2 }), SENT)).toBeNull()
    expect(delayOf(new Float32Array(120_000), SENT)).toBeNull()
    expect(delayOf(heard(500, { from: SENT.slice(0, 1) }), SENT)).toBeNull()
    expect(delayOf(new Float32Array(0), [])).toBeNull()
  })
})
