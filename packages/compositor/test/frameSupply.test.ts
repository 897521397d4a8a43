import { describe, expect, it } from 'vitest'
import { FrameSupply, type DecoderBackend, type FrameRequest, type HeldFrame, type SupplyLimits } from '../src/index'

/** Frames are `source:number`; every decoder, read and release is counted. */
class FakeDecoders implements DecoderBackend<string> {
  opened: string[] = []
  reads = 0
  open_ = 0
  most = 0
  singles = 0
  readonly out = new Map<string, number>()
  lengths = new Map<string, number>()
  failAt: string | null = null
  group = 10

  open({ source, frame, step: stepOf }: FrameRequest) {
    const step = stepOf?.() ?? 1
    this.opened.push(`${source}:${frame}`)
    this.open_++
    this.most = Math.max(this.most, this.open_)
    let next = frame
    let open = true
    return {
      step,
      read: async () => {
        this.reads++
        await new Promise((resolve) => setTimeout(resolve, 1))
        const name = `${source}:${next}`
        if (name === this.failAt) throw new Error('The file is damaged.')
        if (next >= (this.lengths.get(source) ?? Infinity)) return null
        next += step
        this.out.set(name, (this.out.get(name) ?? 0) + 1)
        return name
      },
      close: () => {
        if (open) this.open_--
        open = false
      },
    }
  }

  groupStart = ({ frame }: FrameRequest) => frame - (frame % this.group)
  bytes = () => 1
  release(frame: string) {
    const left = this.out.get(frame)! - 1
    if (left < 0) throw new Error(`${frame} was given back twice.`)
    if (left === 0) this.out.delete(frame)
    else this.out.set(frame, left)
  }
}

const supply = (decoders: FakeDecoders, limits: Partial<SupplyLimits> = {}) =>
  new FrameSupply(decoders, { bytes: 12, decoders: 4, skip: 20, ...limits })

const at = (source: string, frame: number) => ({ source, frame })
const names = (held: (HeldFrame<string> | null)[]) => {
  const found = held.map((entry) => entry?.frame ?? null)
  for (const entry of held) entry?.release()
  return found
}

describe('the supply of frames', () => {
  it('gives nine sources at once from nine decoders in all, however few it would keep open', async () => {
    const decoders = new FakeDecoders()
    const s = supply(decoders)
    for (let n = 0; n < 60; n++) {
      const wanted = Array.from({ length: 9 }, (_, i) => at(`s${i}`, n))
      expect(names(await s.frames(wanted, 'forward'))).toEqual(wanted.map(({ source, frame }) => `${source}:${frame}`))
    }
    expect(decoders.opened).toHaveLength(9)
    expect(decoders.reads).toBe(9 * 60)
  })

  it('decodes each group of pictures once when it goes backwards', async () => {
    const decoders = new FakeDecoders()
    const s = supply(decoders, { bytes: 24 })
    for (let n = 99; n >= 0; n--) expect(names(await s.frames([at('a', n)], 'backward'))).toEqual([`a:${n}`])
    expect(decoders.opened).toHaveLength(10)
    expect(decoders.reads).toBe(100)
  })

  it('keeps whole groups while something goes backwards, and less where all goes on', async () => {
    const decoders = new FakeDecoders()
    const s = supply(decoders, { bytes: 24, onward: 4 })
    for (let n = 99; n >= 50; n--) names(await s.frames([at('a', n)], 'backward'))
    expect(decoders.opened).toHaveLength(5)
    expect(s.bytes).toBeGreaterThan(4)
    for (let n = 50; n < 150; n++) names(await s.frames([at('b', n), at('b', n - 1), at('b', n - 2)], 'forward'))
    expect(s.bytes).toBeLessThanOrEqual(4)
    // Each of three layers that follow each other has its frame of one decoder.
    expect(decoders.opened.filter((name) => name.startsWith('b'))).toHaveLength(3)
  })

  it('catches up by decoding on where beginning anew costs more, while it plays', async () => {
    const decoders = Object.assign(new FakeDecoders(), { skip: (source: string) => (source === 'far' ? 90 : 20) })
    const s = supply(decoders, { bytes: 200 })
    for (const source of ['far', 'near'])
      for (const frame of [0, 60, 61, 200]) names(await s.frames([at(source, frame)], 'forward'))
    expect(decoders.opened).toEqual(['far:0', 'far:200', 'near:0', 'near:60', 'near:200'])
    // A place that is looked at and stands still is sought where it is far.
    names(await s.frames([at('far', 260)], 'still'))
    expect(decoders.opened.at(-1)).toBe('far:260')
  })

  it('gives one frame to everybody who asks for it, decoded once', async () => {
    const decoders = new FakeDecoders()
    const s = supply(decoders)
    expect(names(await s.frames([at('a', 5), at('a', 5), at('a', 6)], 'forward'))).toEqual(['a:5', 'a:5', 'a:6'])
    expect(
      names((await Promise.all([s.frames([at('a', 7)], 'forward'), s.frames([at('a', 7)], 'forward')])).flat()),
    ).toEqual(['a:7', 'a:7'])
    expect(decoders.opened).toHaveLength(1)
    expect(decoders.reads).toBe(3)
  })

  it('has a decoder for each of two places in one source, and runs both on', async () => {
    const decoders = new FakeDecoders()
    const s = supply(decoders)
    for (let n = 0; n < 30; n++) names(await s.frames([at('a', n), at('a', 500 + n)], 'forward'))
    expect(decoders.opened).toEqual(['a:0', 'a:500'])
  })

  it('keeps to its limit, but never lets go of what somebody has', async () => {
    const decoders = new FakeDecoders()
    const s = supply(decoders, { bytes: 3 })
    const [held] = await s.frames([at('a', 0)], 'forward')
    for (let n = 1; n < 50; n++) names(await s.frames([at('a', n)], 'forward'))
    expect(s.bytes).toBeLessThanOrEqual(4)
    expect(decoders.out.has('a:0')).toBe(true)
    held!.release()
    held!.release()
    s.close()
    expect([...decoders.out]).toEqual([])
    expect(decoders.open_).toBe(0)
  })

  it('holds the last frame of a source that ends early, and closes its decoder', async () => {
    const decoders = new FakeDecoders()
    decoders.lengths.set('a', 8)
    const s = supply(decoders)
    expect(names(await s.frames([at('a', 3)], 'forward'))).toEqual(['a:3'])
    expect(names(await s.frames([at('a', 15)], 'forward'))).toEqual(['a:7'])
    expect(decoders.open_).toBe(0)
    s.close()
    expect([...decoders.out]).toEqual([])
  })

  it('closes a decoder that was of no use for a while, and opens it anew where it is wanted', async () => {
    const decoders = new FakeDecoders()
    const s = new FrameSupply(decoders, { bytes: 12, decoders: 4, skip: 20, idle: 5 })
    names(await s.frames([at('a', 0)], 'forward'))
    s.expect(at('c', 7), 20)
    for (let frame = 0; frame < 5; frame++) names(await s.frames([at('b', frame)], 'forward'))
    expect(decoders.open_).toBe(3)
    names(await s.frames([at('b', 5)], 'forward'))
    expect(decoders.open_).toBe(1)
    expect(names(await s.frames([at('a', 1), at('b', 6)], 'forward'))).toEqual(['a:1', 'b:6'])
    expect(decoders.opened).toEqual(['a:0', 'c:7', 'b:0', 'a:1'])
    s.close()
    expect([...decoders.out]).toEqual([])
  })

  it('remembers where a whole file ends: beyond it nothing is opened, whatever was forgotten meanwhile', async () => {
    for (const whole of [true, false]) {
      const decoders = Object.assign(new FakeDecoders(), { whole })
      decoders.lengths.set('a', 8)
      const s = supply(decoders, { bytes: 2 })
      const shown = async (source: string, frame: number) => names(await s.frames([at(source, frame)], 'forward'))[0]
      expect(await shown('a', 3)).toBe('a:3')
      for (let frame = 8; frame < 20; frame++) expect(await shown('a', frame)).toBe('a:7')
      s.expect(at('a', 40), 20)
      // Only the first of them ran into the end.
      expect(decoders.opened.length, `${whole}`).toBe(whole ? 1 : 13)
      for (let frame = 0; frame < 5; frame++) await shown('b', frame)
      expect(await shown('a', 30)).toBe(whole ? 'a:7' : null)
      // What lies before it is still read.
      expect(await shown('a', 5)).toBe('a:5')
      s.close()
      expect([...decoders.out]).toEqual([])
    }
  })

  it('opens a whole file beyond its end once, and holds its last frame only where that one was reached', async () => {
    const decoders = Object.assign(new FakeDecoders(), { whole: true })
    decoders.lengths.set('a', 8)
    const s = supply(decoders)
    const shown = async (frame: number) => names(await s.frames([at('a', frame)], 'forward'))[0]
    expect(await shown(3)).toBe('a:3')
    for (let frame = 40; frame < 60; frame++) expect(await shown(frame)).toBeNull()
    s.expect(at('a', 60), 20)
    expect(decoders.opened).toEqual(['a:3', 'a:40'])
    // From where it stands it runs into the end: now it is known which frame is the last.
    expect(await shown(12)).toBe('a:7')
    expect(await shown(45)).toBe('a:7')
    expect(decoders.opened).toEqual(['a:3', 'a:40'])
    s.close()
    expect([...decoders.out]).toEqual([])
  })

  it('knows the last frame of a whole file also where decoders leave frames out, each others', async () => {
    const decoders = Object.assign(new FakeDecoders(), { whole: true })
    decoders.lengths.set('a', 8)
    const s = supply(decoders)
    const shown = async (frame: number, step: number) =>
      names(await s.frames([{ ...at('a', frame), step: () => step }], 'forward'))[0]
    expect(await shown(0, 3)).toBe('a:0')
    expect(await shown(7, 4)).toBe('a:7')
    // The first decoder goes on over 3 and 6, and finds nothing at 9.
    expect(await shown(9, 3)).toBe('a:7')
    expect(decoders.opened).toEqual(['a:0', 'a:7'])
    s.close()
    expect([...decoders.out]).toEqual([])
  })

  it('opens a decoder ahead only where none will be there by itself, and reads it from there', async () => {
    const decoders = new FakeDecoders()
    const s = supply(decoders)
    names(await s.frames([at('a', 0)], 'forward'))
    s.expect(at('a', 15), 20)
    s.expect(at('b', 100), 20)
    s.expect(at('b', 100), 20)
    expect(decoders.opened).toEqual(['a:0', 'b:100'])
    expect(names(await s.frames([at('b', 100)], 'forward'))).toEqual(['b:100'])
    expect(decoders.opened).toHaveLength(2)
  })

  it('leaves out what lies between frames that are evenly apart; another decoder gives it', async () => {
    const decoders = new FakeDecoders()
    const s = supply(decoders)
    const even = (frame: number) => ({ ...at('a', frame), step: () => 2 })
    for (let frame = 0; frame < 40; frame += 2)
      expect(names(await s.frames([even(frame)], 'forward'))).toEqual([`a:${frame}`])
    expect([decoders.reads, decoders.opened]).toEqual([20, ['a:0']])
    // Ahead of it the same decoder comes by; between two of its frames it does not.
    s.expect(even(60), 20)
    expect(decoders.opened).toHaveLength(1)
    expect(names(await s.frames([{ ...at('a', 41), step: () => 1 }], 'forward'))).toEqual(['a:41'])
    expect(decoders.opened).toEqual(['a:0', 'a:41'])
    expect(names(await s.frames([even(42)], 'forward'))).toEqual(['a:42'])
    expect(decoders.opened).toHaveLength(2)
    s.close()
    expect([...decoders.out]).toEqual([])
  })

  it('says what failed, gives the others back, and goes on with the next', async () => {
    const decoders = new FakeDecoders()
    decoders.failAt = 'b:2'
    const s = supply(decoders)
    names(await s.frames([at('a', 0), at('b', 0)], 'forward'))
    await expect(s.frames([at('a', 2), at('b', 2)], 'forward')).rejects.toThrow('damaged')
    decoders.failAt = null
    expect(names(await s.frames([at('a', 3), at('b', 3)], 'forward'))).toEqual(['a:3', 'b:3'])
    s.close()
    expect([...decoders.out]).toEqual([])
  })
})
