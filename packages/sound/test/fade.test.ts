import { describe, expect, it } from 'vitest'
import { SOUND_FADES, type SoundPlan } from '@dusk/timeline'
import { fadeGain, mixRange } from '../src/index'

const ones = async (_asset: string, _stream: number, _from: number, count: number) => ({
  channels: 1,
  samples: new Float32Array(count).fill(1),
})

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

  it('come out the same however the mix is cut into blocks, and sum to one across a straight crossfade', async () => {
    const piece = { assetId: 'a', stream: 0, gain: 0, from: 1000 }
    const plan: SoundPlan = {
      length: 3000,
      pieces: [
        { ...piece, at: 0, length: 2000, fades: [{ from: 1000, length: 1000, shape: 'linear', direction: 'out' }] },
        { ...piece, at: 1000, length: 2000, fades: [{ from: 0, length: 1000, shape: 'linear', direction: 'in' }] },
      ],
    }
    const whole = await mixRange(plan, 0, 3000, ones)
    const parts = [await mixRange(plan, 0, 1234, ones), await mixRange(plan, 1234, 1766, ones)]
    expect([...parts[0]!, ...parts[1]!]).toEqual([...whole])
    for (let i = 0; i < 3000; i += 50) expect(whole[i * 2]).toBeCloseTo(1, 5)
  })
})
