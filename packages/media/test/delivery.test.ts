import { describe, expect, it } from 'vitest'
import { chunkEnding, filtersOf, pictureArgs, takesRgba, type PictureEncoding } from '../src/index'

const encoding = (change: Partial<PictureEncoding>): PictureEncoding => ({
  ...{ width: 640, height: 360, rate: { num: 30, den: 1 }, codec: 'h264', quality: 'good' },
  ...change,
})
const value = (args: readonly string[], name: string) => args[args.indexOf(name) + 1]

describe('arguments of a codec', () => {
  it('go by quality on its own scale, better ones with lower factors, or by bits a second', () => {
    for (const codec of ['h264', 'h265', 'av1', 'vp9'] as const) {
      const factors = (['draft', 'good', 'best'] as const).map((quality) =>
        Number(value(pictureArgs(encoding({ codec, quality })), '-crf')),
      )
      expect(factors, codec).toEqual([...factors].sort((a, b) => b - a))
      const aimed = pictureArgs(encoding({ codec, bitrate: 2_000_000 }))
      expect(aimed, codec).not.toContain('-crf')
      expect(value(aimed, '-b:v'), codec).toBe('2000000')
    }
    const profiles = (['draft', 'good', 'best'] as const).map((quality) =>
      value(pictureArgs(encoding({ codec: 'prores', quality })), '-profile:v'),
    )
    expect(new Set(profiles).size).toBe(3)
  })

  it('are tagged as BT.709 in limited range in every film', () => {
    for (const codec of ['h264', 'h265', 'av1', 'vp9', 'prores'] as const)
      for (const alpha of [false, true]) {
        const args = pictureArgs(encoding({ codec, alpha }))
        expect(
          ['-colorspace', '-color_primaries', '-color_trc', '-color_range'].map((name) => value(args, name)),
        ).toEqual(['bt709', 'bt709', 'bt709', 'tv'])
      }
  })

  it('take pixels with colours where transparency or no loss is wanted, and planes elsewhere', () => {
    expect(takesRgba(encoding({}))).toBe(false)
    expect(takesRgba(encoding({ codec: 'prores', alpha: true }))).toBe(true)
    for (const codec of ['gif', 'webp', 'png', 'jpeg'] as const) {
      expect(takesRgba(encoding({ codec }))).toBe(true)
      expect(pictureArgs(encoding({ codec }))).toContain('ffv1')
      expect(chunkEnding({ codec })).toBe('mkv')
    }
    expect(chunkEnding({ codec: 'h265' })).toBe('ts')
  })

  it('cut and pad to another shape, about the middle', () => {
    expect(filtersOf(encoding({}))).toEqual([])
    const frame = { width: 360, height: 360, background: '#101020' }
    expect(filtersOf(encoding({ frame }))).toEqual(['crop=360:360'])
    const [fitted] = filtersOf(encoding({ width: 360, height: 202, frame }))
    expect(fitted).toBe('pad=360:360:(ow-iw)/2:(oh-ih)/2:color=#101020')
    expect(filtersOf(encoding({ width: 360, height: 202, frame, codec: 'png', alpha: true }))[0]).toContain('black@0')
  })
})
