import { describe, expect, it } from 'vitest'
import { fitLength, type FittedLength } from '../src/index'
import { noiseAt, RATE } from './tools'

/** A bar of two seconds, 120 to the minute: a bass, a chord that changes every bar, a click on each beat. */
const BAR = RATE * 2
// Whole numbers of waves in eight seconds, so that it comes back to the sample.
const CHORDS = [220, 174.5, 261.5, 196]
function music(seconds: number): Float32Array {
  return Float32Array.from({ length: seconds * RATE }, (_, n) => {
    const bar = Math.floor(n / BAR) % 4
    const beat = n % (RATE / 2)
    const t = n / RATE
    const chord = [1, 1.25, 1.5].reduce((sum, k) => sum + Math.sin(2 * Math.PI * CHORDS[bar]! * k * t), 0)
    // An end of its own: it dies away in the last two seconds.
    const out = Math.min(1, (seconds * RATE - n) / BAR)
    return out * (0.1 * chord + 0.4 * noiseAt(n % BAR) * Math.exp(-beat / 600))
  })
}
const lengthOf = ({ parts }: FittedLength) => parts.reduce((sum, { from, to }) => sum + to - from, 0)
/** What it sounds like, joins and all. */
const heard = (mono: Float32Array, { parts }: FittedLength) =>
  Float32Array.from(parts.flatMap(({ from, to }) => [...mono.subarray(from, to)]))

describe('music to a length', () => {
  it('leaves whole bars out where it sounds alike, and ends as it did', () => {
    const mono = music(40)
    for (const seconds of [32, 24, 31.5]) {
      const fitted = fitLength(mono, seconds * RATE)
      expect(fitted.manner, `${seconds}`).toBe('matched')
      expect(Math.abs(lengthOf(fitted) - seconds * RATE)).toBeLessThanOrEqual(RATE * 0.8)
      expect(lengthOf(fitted)).toBeLessThanOrEqual(seconds * RATE)
      // What was left out is a whole run of the four chords, to the sample.
      const [a, b] = fitted.parts
      expect((b!.from - a!.to) % (BAR * 4), `${seconds}`).toBe(0)
      if (seconds !== 31.5) expect(b!.to).toBe(mono.length)
      expect(fitted.fadeOut).toBe(seconds === 31.5 ? RATE * 0.6 : 0)
    }
  })

  it('begins stretches again where it sounds alike, as often as it takes', () => {
    const mono = music(20)
    for (const seconds of [28, 36, 76]) {
      const fitted = fitLength(mono, seconds * RATE)
      expect(fitted.manner).toBe('matched')
      expect(lengthOf(fitted)).toBe(seconds * RATE)
      for (const [i, part] of fitted.parts.entries()) {
        const next = fitted.parts[i + 1]
        if (next) expect((part.to - next.from) % (BAR * 4)).toBe(0)
      }
      // Clicks go on in their beat, from the first to the last.
      const out = heard(mono, fitted)
      const same = music(seconds)
      for (let n = 0; n < out.length - BAR; n += 997) expect(Math.abs(out[n]! - same[n]!)).toBeLessThan(1e-3)
    }
  })

  it('passes slowly where nothing is ever alike, and fades where it has to be shorter', () => {
    // A tone that climbs and climbs, eight octaves in twenty seconds.
    const climb = Math.log(2) * 0.4
    const climbing = Float32Array.from(
      { length: RATE * 20 },
      (_, n) => 0.3 * Math.sin(2 * Math.PI * (50 / climb) * Math.exp((climb * n) / RATE)),
    )
    const longer = fitLength(climbing, RATE * 50)
    expect(longer).toMatchObject({ manner: 'looped', crossfade: RATE * 2 })
    expect(lengthOf(longer)).toBe(RATE * 50)
    for (const { from, to } of longer.parts) {
      expect(from).toBeGreaterThanOrEqual(0)
      expect(to).toBeLessThanOrEqual(climbing.length)
    }
    const shorter = fitLength(climbing, RATE * 9)
    expect(shorter).toEqual({ parts: [{ from: 0, to: RATE * 9 }], crossfade: 0, fadeOut: RATE * 3, manner: 'faded' })
  })

  it('leaves alone what is as long as that, and says what can’t be done', () => {
    const mono = music(8)
    expect(fitLength(mono, mono.length + 100).parts).toEqual([{ from: 0, to: mono.length }])
    expect(() => fitLength(mono, RATE / 2)).toThrow('shorter than a second')
    expect(() => fitLength(mono.subarray(0, RATE), RATE * 3)).toThrow('too short')
    // Silence is alike everywhere.
    expect(fitLength(new Float32Array(RATE * 10), RATE * 20).manner).toBe('matched')
  })
})
