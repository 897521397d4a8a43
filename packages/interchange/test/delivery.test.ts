import { describe, expect, it } from 'vitest'
import { AS_REEL, beyondCodec, deliveryOf, heldRate, renderSettings } from '../src/index'

const rate = (num: number, den = 1) => ({ num, den })

describe('what a codec can’t go beyond', () => {
  it('is told with the field at fault, and of nothing that it can do', () => {
    const small = { width: 16, height: 64, rate: rate(30) }
    expect(beyondCodec(deliveryOf('mp4-av1'), small)).toMatchObject({ field: 'size' })
    expect(beyondCodec(deliveryOf('mp4-av1'), small)!.words).toContain('64 × 64')
    expect(beyondCodec(deliveryOf('webm-av1'), { ...small, width: 64 })).toBeNull()
    for (const id of ['mp4-h264', 'mp4-h265', 'webm-vp9', 'mov-prores', 'gif', 'webp'] as const)
      expect([id, beyondCodec(deliveryOf(id), small)]).toEqual([id, null])
  })

  it('holds a GIF to fifty pictures a second, since players slow down faster ones', () => {
    for (const fast of [rate(60), rate(60_000, 1001)]) {
      const size = { width: 320, height: 180, rate: fast }
      expect(beyondCodec(deliveryOf('gif'), size)).toMatchObject({ field: 'rate' })
      expect(heldRate(deliveryOf('gif'), fast)).toEqual(rate(50))
      expect(heldRate(deliveryOf('webp'), fast)).toBe(fast)
      const reel = { ...size, width: 1280, height: 720 }
      expect(renderSettings({ ...AS_REEL, format: 'gif' }, reel, null).rate).toEqual(rate(50))
      expect(renderSettings(AS_REEL, reel, null).rate).toBe(fast)
    }
    for (const slow of [rate(50), rate(30), rate(24_000, 1001)]) {
      expect(beyondCodec(deliveryOf('gif'), { width: 320, height: 180, rate: slow })).toBeNull()
      expect(heldRate(deliveryOf('gif'), slow)).toBe(slow)
    }
  })
})
