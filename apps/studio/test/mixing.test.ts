import { describe, expect, it } from 'vitest'
import {
  CONTROL,
  createRingMemory,
  openRing,
  overwriteRing,
  readRing,
  RING_FRAMES,
  writeRing,
} from '~/features/player/ring'
import { MixMeters } from '~/features/player/mixMeters'
import type { Meters } from '~/features/player/messages'

const filled = (frames: number, value: number) => new Float32Array(frames * 2).fill(value)

describe('the ring of samples', () => {
  it('is written over from a place on, passing from the old to the new', () => {
    const ring = openRing(createRingMemory())
    writeRing(ring, filled(2000, 1))
    overwriteRing(ring, filled(1000, -1), 500, 100)
    expect(Atomics.load(ring.control, CONTROL.written)).toBe(1500)
    const [left, right] = [new Float32Array(1600), new Float32Array(1600)]
    expect(readRing(ring, left, right)).toBe(1500)
    expect([left[499], left[600], left[1499]]).toEqual([1, -1, -1])
    expect(Math.abs(left[550]!)).toBeLessThan(0.02)
    // No step on the way is larger than an even passage makes.
    for (let i = 1; i < 1500; i++) expect(Math.abs(left[i]! - left[i - 1]!)).toBeLessThan(0.03)
    expect([...right.subarray(1500)].every((value) => value === 0)).toBe(true)
  })

  it('goes round its end', () => {
    const ring = openRing(createRingMemory())
    const most = RING_FRAMES - 100
    writeRing(ring, filled(most, 0.5))
    readRing(ring, new Float32Array(most - 50), new Float32Array(most - 50))
    overwriteRing(ring, filled(300, 0.25), most, 10)
    const [left, right] = [new Float32Array(350), new Float32Array(350)]
    readRing(ring, left, right)
    expect([left[0], left[49], left[50], left[349], right[349]]).toEqual([0.5, 0.5, 0.25, 0.25, 0.25])
  })
})

describe('meters of the mix', () => {
  const bus = (value: number, reductions: [string, number][] = []) => ({
    left: new Float32Array(128).fill(value),
    right: new Float32Array(128).fill(-value / 2),
    reductions: () => reductions,
  })

  it('say what is heard when, a reading for each twentieth of a second, and nothing of run-ups', () => {
    const said: Meters[] = []
    const meters = new MixMeters(
      (reading) => said.push(reading),
      () => 'reel',
    )
    meters.begin(7, 48_000)
    for (let at = 40_000; at < 48_000 + 9600; at += 128) {
      // Loud before the place that play begins at, quiet from there.
      const now = bus(at < 48_000 ? 0.9 : 0.25, [['limiter', -3]])
      meters.track('voice', at, now as never)
      meters.reel(at, now as never)
    }
    expect(said.length).toBeGreaterThanOrEqual(3)
    for (const reading of said) {
      expect(reading.run).toBe(7)
      expect(reading.at).toBeGreaterThanOrEqual(0)
      expect(reading.reel.left).toBeLessThanOrEqual(0.25)
      expect(reading.tracks.voice!.right).toBeLessThanOrEqual(0.125)
      expect(reading.reductions.limiter ?? -3).toBe(-3)
    }
    expect(said[1]!.at - said[0]!.at).toBeGreaterThanOrEqual(2300)
  })

  it('show where the sound lies, for what is watched alone', () => {
    const said: Meters[] = []
    const meters = new MixMeters(
      (reading) => said.push(reading),
      () => 'reel',
    )
    meters.watched = 'voice'
    meters.begin(1, 0)
    for (let at = 0; at < 24_000; at += 128) {
      const tone = bus(0)
      for (let i = 0; i < 128; i++)
        tone.left[i] = tone.right[i] = 0.5 * Math.sin((2 * Math.PI * 1000 * (at + i)) / 48_000)
      meters.track('voice', at, tone as never)
      meters.reel(at, tone as never)
    }
    const spectrum = said.at(-1)!.spectrum!
    const highest = spectrum.indexOf(Math.max(...spectrum))
    const hz = 20 * 1000 ** (highest / 63)
    expect(hz).toBeGreaterThan(850)
    expect(hz).toBeLessThan(1180)
    expect(spectrum[0]).toBeLessThan(-40)
  })
})
