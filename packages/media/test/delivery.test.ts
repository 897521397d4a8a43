import { describe, expect, it } from 'vitest'
import { chunkEnding, ffmetadata, filtersOf, pictureArgs, takesRgba, type PictureEncoding } from '../src/index'

const encoding = (change: Partial<PictureEncoding>): PictureEncoding => ({
  ...{ width: 640, height: 360, rate: { num: 30, den: 1 }, codec: 'h264', quality: 'good' },
  ...change,
})
const value = (args: readonly string[], name: string) => args[args.indexOf(name) + 1]

describe('words of a file', () => {
  it('are masked where the form has signs of its own, and chapters lie one after the other', () => {
    const text = ffmetadata({
      title: 'Night = day; #1 \\',
      description: 'One\ntwo',
      chapters: [
        { from: 0, to: 705_600_000, name: 'Beginning' },
        { from: 705_600_000, to: 1_411_200_000, name: 'Lights' },
      ],
    })!
    expect(text.split('\n').slice(0, 2)).toEqual([';FFMETADATA1', 'title=Night \\= day\\; \\#1 \\\\'])
    expect(text).toContain('description=One\\\ntwo')
    expect(text.match(/START=\d+\nEND=\d+/g)).toEqual(['START=0\nEND=1000', 'START=1000\nEND=2000'])
  })

  it('are none where nothing is said', () => {
    expect(ffmetadata({})).toBeNull()
    expect(ffmetadata({ title: '', chapters: [] })).toBeNull()
  })
})

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
