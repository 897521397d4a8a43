import { describe, expect, it } from 'vitest'
import { SOUND_FADES } from '@dusk/timeline'
import { fadeGain } from '../src/index'

describe('fades', () => {
  it('begin at silence, end at full, and rise all the way', () => {
    for (const shape of SOUND_FADES) {
      const curve = Array.from({ length: 21 }, (_, i) => fadeGain(shape, i / 20))
      expect([curve[0], curve[20]]).toEqual([0, 1])
      for (let i = 1; i < 21; i++) expect(curve[i]).toBeGreaterThan(curve[i - 1]!)
    }
  })

  it('keep power through an even crossfade and amplitude through a straight one', () => {
    for (const t of [0.1, 0.35, 0.5, 0.8]) {
      expect(fadeGain('equalPower', t) ** 2 + fadeGain('equalPower', 1 - t) ** 2).toBeCloseTo(1, 9)
      expect(fadeGain('linear', t) + fadeGain('linear', 1 - t)).toBeCloseTo(1, 9)
    }
  })
})
