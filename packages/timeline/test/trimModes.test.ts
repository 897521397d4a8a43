import { describe, expect, it } from 'vitest'
import { check, clipsOn, rollLimits, Edit, slideLimits, slips, sourceTimeAt } from '../src/index'
import { desk, f, layout, placePair, refusal, run, uuid } from './helpers'

/** Two pairs that touch, 60 and 90 frames, with footage hidden on all sides, and a third after a gap of 10. */
function cut() {
  const d = desk()
  const a = placePair(d.project, d.picture1.id, d.voice.id, 1, 0, 60, 60)
  const b = placePair(a.project, d.picture1.id, d.voice.id, 11, 60, 90, 60)
  const c = placePair(b.project, d.picture1.id, d.voice.id, 21, 160, 30, 60)
  return { ...d, project: c.project, a: a.p, b: b.p, c: c.p }
}

describe('one length for several clips', () => {
  it('trims each by its end, with its sound, and closes up or leaves gaps', () => {
    const d = cut()
    const plain = run(d.project, { type: 'setLengths', clipIds: [d.a, d.b, d.c], length: f(20) })
    expect(layout(plain, d.picture1.id)).toEqual([
      [0, 20],
      [60, 20],
      [160, 20],
    ])
    expect(layout(plain, d.voice.id)).toEqual(layout(plain, d.picture1.id))
    // Both halves of a pair named are one clip all the same.
    const pair = clipsOn(d.project, d.voice.id).map((clip) => clip.id)
    const ripple = run(d.project, { type: 'setLengths', clipIds: [...pair, d.a, d.b], length: f(80), mode: 'ripple' })
    expect(layout(ripple, d.picture1.id)).toEqual([
      [0, 80],
      [80, 80],
      [170, 80],
    ])
    expect(slips(ripple).size).toBe(0)
    expect(check(ripple)).toEqual([])
    // Where one can't, none is changed.
    const far = { type: 'setLengths' as const, clipIds: [d.a, d.c], length: f(400) }
    expect(refusal(() => run(d.project, far)).message).toContain('nothing more')
  })
})

describe('a rippling trim', () => {
  it('moves everything later when an end gets longer or shorter', () => {
    const d = cut()
    const longer = run(d.project, { type: 'trim', clipId: d.a, edge: 'end', to: f(75), mode: 'ripple' })
    expect(layout(longer, d.picture1.id)).toEqual([
      [0, 75],
      [75, 90],
      [175, 30],
    ])
    expect(layout(longer, d.voice.id)).toEqual([
      [0, 75],
      [75, 90],
      [175, 30],
    ])
    const shorter = run(longer, { type: 'trim', clipId: d.a, edge: 'end', to: f(40), mode: 'ripple' })
    expect(layout(shorter, d.picture1.id)).toEqual([
      [0, 40],
      [40, 90],
      [140, 30],
    ])
    expect(check(shorter)).toEqual([])
    expect(slips(shorter).size).toBe(0)
  })

  it('keeps a start in its place while its footage begins later or earlier', () => {
    const d = cut()
    const shorter = run(d.project, { type: 'trim', clipId: d.b, edge: 'start', to: f(80), mode: 'ripple' })
    expect(layout(shorter, d.picture1.id)).toEqual([
      [0, 60],
      [60, 70],
      [140, 30],
    ])
    expect(sourceTimeAt(shorter.clips[d.b]!, f(60))).toBe(f(80))
    const longer = run(shorter, { type: 'trim', clipId: d.b, edge: 'start', to: f(20), mode: 'ripple' })
    expect(layout(longer, d.picture1.id)).toEqual([
      [0, 60],
      [60, 110],
      [180, 30],
    ])
    expect(sourceTimeAt(longer.clips[d.b]!, f(60))).toBe(f(40))
    expect(layout(longer, d.voice.id)).toEqual(layout(longer, d.picture1.id))
  })

  it('stops at the end of the source, in words', () => {
    const d = cut()
    expect(
      refusal(() => run(d.project, { type: 'trim', clipId: d.b, edge: 'start', to: f(-10), mode: 'ripple' })).message,
    ).toContain('nothing more')
  })

  it('moves one track alone when asked, and locked tracks only with the scope of all', () => {
    const d = cut()
    const other = placePair(d.project, d.picture2.id, d.effects.id, 31, 200, 30).project
    const alone = run(other, { type: 'trim', clipId: d.c, edge: 'end', to: f(180), mode: 'ripple', scope: 'track' })
    expect(layout(alone, d.picture2.id)).toEqual([[200, 30]])
    const locked = run(other, { type: 'setTrack', trackId: d.picture2.id, set: { locked: true } })
    const ripple = { type: 'trim', clipId: d.c, edge: 'end', to: f(200), mode: 'ripple' } as const
    expect(layout(run(locked, ripple), d.picture2.id)).toEqual([[200, 30]])
    expect(layout(run(locked, { ...ripple, scope: 'all' }), d.picture2.id)).toEqual([[210, 30]])
  })
})

describe('roll', () => {
  it('gives one clip what the other loses, on every linked track', () => {
    const d = cut()
    const rolled = run(d.project, { type: 'roll', leftId: d.a, rightId: d.b, to: f(72) })
    expect(layout(rolled, d.picture1.id)).toEqual([
      [0, 72],
      [72, 78],
      [160, 30],
    ])
    expect(layout(rolled, d.voice.id)).toEqual([
      [0, 72],
      [72, 78],
      [160, 30],
    ])
    expect(sourceTimeAt(rolled.clips[d.b]!, f(72))).toBe(f(72))
    expect(slips(rolled).size).toBe(0)
  })

  it('knows how far it can go and refuses beyond, and across a gap', () => {
    const d = cut()
    const limits = rollLimits(new Edit(d.project, uuid(9)), d.project.clips[d.a]!, d.project.clips[d.b]!)
    expect([limits.min, limits.max]).toEqual([f(1), f(149)])
    expect(refusal(() => run(d.project, { type: 'roll', leftId: d.a, rightId: d.b, to: f(150) })).rule).toBe('limit')
    // The cut of a first shot of two frames, brought three frames back, is no bad number but one step too far.
    const short = run(d.project, { type: 'roll', leftId: d.a, rightId: d.b, to: f(2) })
    const back = refusal(() => run(short, { type: 'roll', leftId: d.a, rightId: d.b, to: f(-1) }))
    expect(back.rule).toBe('limit')
    expect(back.message).toContain('nothing more at this cut')
    expect(refusal(() => run(d.project, { type: 'roll', leftId: d.b, rightId: d.c, to: f(150) })).rule).toBe('touch')
  })
})

describe('slip and slide', () => {
  it('slips other footage into the same place, with its sound', () => {
    const d = cut()
    const slipped = run(d.project, { type: 'slip', clipIds: [d.b], by: f(30) })
    expect(layout(slipped, d.picture1.id)).toEqual(layout(d.project, d.picture1.id))
    expect(sourceTimeAt(slipped.clips[d.b]!, f(60))).toBe(f(90))
    expect(slips(slipped).size).toBe(0)
    expect(refusal(() => run(d.project, { type: 'slip', clipIds: [d.b], by: f(151) })).message).toContain(
      'nothing more',
    )
    expect(refusal(() => run(d.project, { type: 'slip', clipIds: [d.b], by: f(-61) })).rule).toBe('limit')
  })

  it('slides a clip between neighbours that give and take', () => {
    const d = cut()
    const slid = run(d.project, { type: 'slide', clipId: d.b, by: f(8) })
    expect(layout(slid, d.picture1.id)).toEqual([
      [0, 68],
      [68, 90],
      [160, 30],
    ])
    expect(layout(slid, d.voice.id)).toEqual(layout(slid, d.picture1.id))
    expect(sourceTimeAt(slid.clips[d.b]!, f(68))).toBe(f(60))
    expect(slips(slid).size).toBe(0)
  })

  it('does not slide over a clip beyond a gap, nor past what a neighbour holds', () => {
    const d = cut()
    const limits = slideLimits(new Edit(d.project, uuid(9)), d.project.clips[d.b]!)
    expect([limits.min, limits.max]).toEqual([f(-59), f(10)])
    expect(refusal(() => run(d.project, { type: 'slide', clipId: d.b, by: f(11) })).rule).toBe('limit')
    expect(clipsOn(d.project, d.picture1.id)).toHaveLength(3)
  })
})
