import { describe, expect, it } from 'vitest'
import {
  freeIdentifier,
  goTogether,
  identifiersOf,
  mergeAvcConfigs,
  readAvcConfig,
  writeAvcConfig,
  type AvcConfig,
} from '../src/copy/avcConfig'
import { slicesOf, unitsOf } from '../src/copy/avcUnits'

/** Parameter sets with identifiers written as ITU-T H.264 § 9.1 says: 1 is 0, 010 is 1, 011 is 2, 00100 is 3. */
const CODES = [0b1000_0000, 0b0100_0000, 0b0110_0000, 0b0010_0000]
const sequence = (id: number, level = 30, profile = 100) => Uint8Array.of(0x67, profile, 0, level, CODES[id]! | 1)
const picture = (id: number, rest = 1) => Uint8Array.of(0x68, CODES[id]! | rest)
function config(id: number, change: Partial<AvcConfig> = {}): AvcConfig {
  const [profile, compatibility, level] = [100, 0, 30]
  const sets = { sequences: [sequence(id)], pictures: [picture(id)] }
  return { profile, compatibility, level, lengthBytes: 4, ...sets, ...change }
}

describe('what a decoder of H.264 is told', () => {
  it('is written as it was read', () => {
    for (const one of [config(0), config(2, { lengthBytes: 2 }), config(1, { profile: 77, compatibility: 0x40 })])
      expect(readAvcConfig(writeAvcConfig(one))).toEqual(one)
    // ISO/IEC 14496-15 § 5.3.3.1.2: only the higher profiles say chroma and depth.
    expect([...writeAvcConfig(config(0))].slice(-4)).toEqual([0xfd, 0xf8, 0xf8, 0])
    expect([...writeAvcConfig(config(0, { profile: 66 }))].slice(-2)).toEqual([...picture(0)])
  })

  it('is nothing where the record is none, or is cut short', () => {
    const whole = writeAvcConfig(config(0, { profile: 66 }))
    expect(readAvcConfig(new Uint8Array())).toBeNull()
    expect(readAvcConfig(Uint8Array.of(2, ...whole.slice(1)))).toBeNull()
    for (let length = 0; length < whole.length; length++) expect(readAvcConfig(whole.slice(0, length))).toBeNull()
  })

  it('names its sets, and which name is free', () => {
    expect([0, 1, 2, 3].map((id) => identifiersOf(config(id)))).toEqual(
      [0, 1, 2, 3].map((id) => ({ sequences: [id], pictures: [id] })),
    )
    expect(freeIdentifier([config(0), config(2)])).toBe(1)
    expect(freeIdentifier([config(0, { pictures: [picture(0), picture(1)] })])).toBe(2)
    expect(freeIdentifier([])).toBe(0)
  })

  it('goes together with another where the same names mean the same', () => {
    expect(goTogether(config(0), config(1))).toBe(true)
    expect(goTogether(config(0), config(0))).toBe(true)
    expect(goTogether(config(0), config(0, { sequences: [sequence(0, 40)] }))).toBe(false)
    expect(goTogether(config(0), config(1, { pictures: [picture(0, 3)] }))).toBe(false)
  })

  it('is brought together of several: all their sets once, the highest profile and level', () => {
    const base = config(1, { profile: 66, compatibility: 0xc0, level: 42, lengthBytes: 2 })
    const merged = mergeAvcConfigs([config(0, { compatibility: 0x80 }), base, config(0)])
    expect(merged).toEqual({
      ...{ profile: 100, compatibility: 0, level: 42, lengthBytes: 4 },
      ...{ sequences: [sequence(0), sequence(1)], pictures: [picture(0), picture(1)] },
    })
  })
})

describe('the units of a picture', () => {
  const packet = Uint8Array.of(0, 2, 9, 16, 0, 3, 0x65, 1, 2, 0, 1, 0x06, 0, 2, 0x41, 7)
  it('are found by their lengths, and slices among them', () => {
    expect([...unitsOf(packet, 2)].map((unit) => unit.length)).toEqual([2, 3, 1, 2])
    expect(slicesOf(packet, 2)).toEqual([Uint8Array.of(0x65, 1, 2), Uint8Array.of(0x41, 7)])
  })
  it('are refused where the lengths do not fit', () => {
    expect(() => [...unitsOf(packet.slice(0, -1), 2)]).toThrow('do not fit')
    expect(() => [...unitsOf(Uint8Array.of(0, 0, 1), 2)]).toThrow('do not fit')
  })
})
