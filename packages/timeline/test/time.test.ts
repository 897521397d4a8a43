import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import {
  formatFine,
  formatShort,
  formatTimecode,
  frameToTicks,
  parseTimecode,
  REEL_RATES,
  sameRate,
  secondsToTicks,
  snapToFrame,
  TICKS_PER_SECOND,
  ticksPerFrame,
  ticksToFrame,
  TICKS_PER_SAMPLE,
  nearestRate,
} from '../src/index'

const RATE_2997 = { num: 30000, den: 1001 }

describe('ticks', () => {
  it('makes every offered rate and the sample rate a whole number of ticks', () => {
    for (const rate of REEL_RATES) expect(Number.isInteger(ticksPerFrame(rate))).toBe(true)
    expect(TICKS_PER_SAMPLE).toBe(14_700)
  })

  it('takes frames to ticks and back without loss, hours in', () => {
    fc.assert(
      fc.property(fc.constantFrom(...REEL_RATES), fc.integer({ min: 0, max: 60 * 3600 * 23 }), (rate, frame) => {
        const ticks = frameToTicks(frame, rate)
        expect(ticksToFrame(ticks, rate)).toBe(frame)
        expect(ticksToFrame(ticks + ticksPerFrame(rate) - 1, rate)).toBe(frame)
        expect(snapToFrame(ticks + Math.floor(ticksPerFrame(rate) / 3), rate)).toBe(ticks)
      }),
    )
  })

  it('knows equal rates written differently', () => {
    expect(sameRate({ num: 30, den: 1 }, { num: 60, den: 2 })).toBe(true)
    expect(sameRate({ num: 30, den: 1 }, RATE_2997)).toBe(false)
    expect(nearestRate(23.98)).toEqual({ num: 24000, den: 1001 })
  })
})

describe('timecode', () => {
  it('counts frames in the last field', () => {
    expect(formatTimecode(frameToTicks(30 * 71 + 21, { num: 30, den: 1 }), { num: 30, den: 1 })).toBe('0:01:11:21')
    expect(formatTimecode(0, { num: 24000, den: 1001 })).toBe('0:00:00:00')
  })

  // The numbers that SMPTE ST 12-1 gives: frame 1800 is 0:01:00;02, and 17982 frames are ten minutes.
  it('drops frame numbers at 29.97', () => {
    expect(formatTimecode(frameToTicks(1799, RATE_2997), RATE_2997)).toBe('0:00:59;29')
    expect(formatTimecode(frameToTicks(1800, RATE_2997), RATE_2997)).toBe('0:01:00;02')
    expect(formatTimecode(frameToTicks(17982, RATE_2997), RATE_2997)).toBe('0:10:00;00')
    expect(formatTimecode(frameToTicks(107892, RATE_2997), RATE_2997)).toBe('1:00:00;00')
    expect(formatTimecode(frameToTicks(3600, { num: 60000, den: 1001 }), { num: 60000, den: 1001 })).toBe('0:01:00;04')
  })

  it('reads back what it shows, for every rate', () => {
    fc.assert(
      fc.property(fc.constantFrom(...REEL_RATES), fc.integer({ min: 0, max: 500_000 }), (rate, frame) => {
        const ticks = frameToTicks(frame, rate)
        expect(parseTimecode(formatTimecode(ticks, rate), rate)).toBe(ticks)
      }),
    )
  })

  it('reads what people type', () => {
    const rate = { num: 25, den: 1 }
    // Sound can lie between frames: it is typed and shown to the thousandth.
    const ms = TICKS_PER_SECOND / 1000
    const from = frameToTicks(30, rate)
    for (const [text, wanted] of [
      ['+0.006s', from + 6 * ms],
      ['-4ms', from - 4 * ms],
      ['+12', frameToTicks(42, rate)],
      ['0:00:02:00 + 6 ms', frameToTicks(2 * Math.round(rate.num / rate.den), rate) + 6 * ms],
      ['1.0055s', secondsToTicks(1.0055)],
    ] as const)
      expect(Math.abs(parseTimecode(text, rate, from, true)! - wanted), text).toBeLessThan(TICKS_PER_SECOND / 90_000)
    for (const text of ['', 'ms', '6 ms ms', '0:00:02:00 6 ms', 'x + 6 ms'])
      expect(parseTimecode(text, rate, 0, true)).toBeNull()
    for (const tick of [from, from + 6 * ms, from + Math.round(33.2 * ms)])
      expect(Math.abs(parseTimecode(formatFine(tick, rate), rate, 0, true)! - tick)).toBeLessThan(ms / 10)
    expect(formatFine(from, rate)).toBe(formatTimecode(from, rate))
    expect(parseTimecode('1:04', rate)).toBe(secondsToTicks(64))
    expect(parseTimecode('4.4s', rate)).toBe(secondsToTicks(4.4))
    expect(parseTimecode('300f', rate)).toBe(secondsToTicks(12))
    expect(parseTimecode('+12', rate, secondsToTicks(1))).toBe(secondsToTicks(1) + frameToTicks(12, rate))
    expect(parseTimecode('-2s', rate, secondsToTicks(5))).toBe(secondsToTicks(3))
    expect(parseTimecode('soon', rate)).toBeNull()
    expect(parseTimecode('', rate)).toBeNull()
  })

  it('never shows a short length as nothing', () => {
    expect(formatShort(secondsToTicks(0.4))).toBe('0.4 s')
    expect(formatShort(secondsToTicks(3725))).toBe('1:02:05')
  })
})
