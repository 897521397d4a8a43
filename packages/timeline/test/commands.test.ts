import { describe, expect, it } from 'vitest'
import {
  applyCommand,
  check,
  clipEnd,
  clipsOn,
  commandSchema,
  describeCommand,
  sourceTimeAt,
  TICKS_PER_SECOND,
  undoCommand,
} from '../src/index'
import { ASSETS, CARD, desk, f, HARBOUR, layout, placePair, refusal, run, SONG, uuid } from './helpers'

describe('a batch', () => {
  it('is carried out as one, and taken back as one', () => {
    const d = desk()
    const { project, p } = placePair(d.project, d.picture1.id, d.voice.id, 1, 0, 60)
    const command = commandSchema.parse({
      type: 'batch',
      label: 'Cut and named',
      commands: [
        { type: 'split', reelId: d.reelId, at: f(20), clipIds: null },
        { type: 'setClips', clipIds: [p], set: { name: 'Lanterns' } },
        // By what came before it in the batch.
        { type: 'trim', clipId: p, edge: 'end', to: f(10) },
      ],
    })
    const { project: after, patches } = applyCommand(project, command, uuid(0x900))
    expect(layout(after, d.picture1.id)).toEqual([
      [0, 10],
      [20, 40],
    ])
    expect(after.clips[p]!.name).toBe('Lanterns')
    expect(describeCommand(command)).toBe('Cut and named')
    expect(check(after)).toEqual([])
    expect(applyCommand(after, undoCommand('Cut and named', patches), uuid(0x901)).project).toEqual(project)
  })

  it('changes nothing where one of it is refused, or would break a rule', () => {
    const d = desk()
    const { project, p } = placePair(d.project, d.picture1.id, d.voice.id, 1, 0, 60)
    const rename = { type: 'renameProject' as const, name: 'Other' }
    const bad = { type: 'trim' as const, clipId: p, edge: 'end' as const, to: f(9000) }
    expect(refusal(() => run(project, { type: 'batch', label: 'x', commands: [rename, bad] })).rule).toBe('limit')
    expect(project.name).toBe('Lantern Night')
    expect(commandSchema.safeParse({ type: 'batch', label: 'x', commands: [] }).success).toBe(false)
    const inner = { type: 'batch', label: 'y', commands: [rename] }
    expect(commandSchema.safeParse({ type: 'batch', label: 'x', commands: [inner] }).success).toBe(false)
  })
})

describe('place', () => {
  it('puts a linked pair down and refuses a second one on top of it', () => {
    const d = desk()
    const a = placePair(d.project, d.picture1.id, d.voice.id, 1, 0, 90)
    expect(layout(a.project, d.picture1.id)).toEqual([[0, 90]])
    expect(layout(a.project, d.voice.id)).toEqual([[0, 90]])
    expect(check(a.project)).toEqual([])
    const refused = refusal(() => placePair(a.project, d.picture1.id, d.effects.id, 11, 60, 30))
    expect(refused.rule).toBe('overlap')
    expect(refused.message).toContain('Picture 1')
  })

  it('inserts: cuts what it lands in, with its sound, and pushes later clips of every track', () => {
    const d = desk()
    let { project } = placePair(d.project, d.picture1.id, d.voice.id, 1, 0, 90)
    project = placePair(project, d.picture1.id, d.voice.id, 11, 100, 50).project
    project = placePair(project, d.picture1.id, d.voice.id, 21, 30, 20, 0, 'insert').project
    expect(layout(project, d.picture1.id)).toEqual([
      [0, 30],
      [30, 20],
      [50, 60],
      [120, 50],
    ])
    expect(layout(project, d.voice.id)).toEqual([
      [0, 30],
      [30, 20],
      [50, 60],
      [120, 50],
    ])
    expect(check(project)).toEqual([])
    // The right half goes on where the left one stopped, and the halves are pairs of their own.
    const [left, , right] = clipsOn(project, d.picture1.id)
    expect(sourceTimeAt(right!, right!.start)).toBe(f(30))
    const rightSound = clipsOn(project, d.voice.id)[2]!
    expect(right!.link).toBe(rightSound.link)
    expect(right!.link).not.toBe(left!.link)
  })

  it('leaves music that spans the place of an insert alone', () => {
    const d = desk()
    let project = run(d.project, {
      type: 'place',
      mode: 'free',
      pieces: [
        {
          clipId: uuid(50),
          trackId: d.music.id,
          assetId: SONG,
          stream: 0,
          start: 0,
          length: f(600),
          source: 0,
          link: null,
        },
      ],
    })
    project = placePair(project, d.picture1.id, d.voice.id, 1, 0, 90).project
    project = placePair(project, d.picture1.id, d.voice.id, 11, 45, 30, 0, 'insert').project
    expect(layout(project, d.music.id)).toEqual([[0, 600]])
  })

  it('lays over: what lies beneath is covered, its outer parts stay', () => {
    const d = desk()
    let { project } = placePair(d.project, d.picture1.id, d.voice.id, 1, 0, 90)
    project = placePair(project, d.picture1.id, d.voice.id, 11, 30, 20, 100, 'over').project
    expect(layout(project, d.picture1.id)).toEqual([
      [0, 30],
      [30, 20],
      [50, 40],
    ])
    const tail = clipsOn(project, d.picture1.id)[2]!
    expect(sourceTimeAt(tail, tail.start)).toBe(f(50))
    expect(check(project)).toEqual([])
  })

  it('refuses sound on a picture track and a part beyond the end of a source', () => {
    const d = desk()
    const base = { clipId: uuid(1), start: 0, length: f(30), link: null }
    expect(
      refusal(() =>
        run(d.project, {
          type: 'place',
          mode: 'free',
          pieces: [{ ...base, trackId: d.picture1.id, assetId: SONG, stream: null, source: 0 }],
        }),
      ).rule,
    ).toBe('kind')
    expect(
      refusal(() =>
        run(d.project, {
          type: 'place',
          mode: 'free',
          pieces: [{ ...base, trackId: d.picture1.id, assetId: HARBOUR, stream: null, source: f(300) }],
        }),
      ).rule,
    ).toBe('source')
  })
})

describe('move', () => {
  it('takes linked sound along and refuses to leave the reel', () => {
    const d = desk()
    const a = placePair(d.project, d.picture1.id, d.voice.id, 1, 10, 90)
    const moved = run(a.project, {
      type: 'move',
      clipIds: [a.p],
      by: f(20),
      tracks: { [a.p]: d.picture2.id },
      mode: 'free',
    })
    expect(layout(moved, d.picture2.id)).toEqual([[30, 90]])
    expect(layout(moved, d.voice.id)).toEqual([[30, 90]])
    expect(layout(moved, d.picture1.id)).toEqual([])
    expect(refusal(() => run(a.project, { type: 'move', clipIds: [a.p], by: f(-11), mode: 'free' })).rule).toBe(
      'before-start',
    )
  })

  it('does not count a clip as in its own way, and reorders by insert', () => {
    const d = desk()
    let { project } = placePair(d.project, d.picture1.id, d.voice.id, 1, 0, 60)
    const b = placePair(project, d.picture1.id, d.voice.id, 11, 60, 30)
    project = run(b.project, { type: 'move', clipIds: [b.p], by: f(10), mode: 'free' })
    expect(layout(project, d.picture1.id)).toEqual([
      [0, 60],
      [70, 30],
    ])
    project = run(project, { type: 'move', clipIds: [b.p], by: f(-70), mode: 'insert' })
    expect(layout(project, d.picture1.id)).toEqual([
      [0, 30],
      [30, 60],
    ])
    expect(check(project)).toEqual([])
  })

  it('can let a pair slip on purpose', () => {
    const d = desk()
    const a = placePair(d.project, d.picture1.id, d.voice.id, 1, 10, 30)
    const project = run(a.project, { type: 'move', clipIds: [a.s], by: f(5), mode: 'free', linked: false })
    expect(layout(project, d.picture1.id)).toEqual([[10, 30]])
    expect(layout(project, d.voice.id)).toEqual([[15, 30]])
  })
})

describe('trim', () => {
  it('shows less and then brings the same footage back', () => {
    const d = desk()
    const a = placePair(d.project, d.picture1.id, d.voice.id, 1, 30, 90, 60)
    let project = run(a.project, { type: 'trim', clipId: a.p, edge: 'start', to: f(50) })
    expect(layout(project, d.picture1.id)).toEqual([[50, 70]])
    expect(layout(project, d.voice.id)).toEqual([[50, 70]])
    expect(sourceTimeAt(project.clips[a.p]!, f(50))).toBe(f(80))
    project = run(project, { type: 'trim', clipId: a.p, edge: 'start', to: f(30) })
    project = run(project, { type: 'trim', clipId: a.p, edge: 'end', to: f(100) })
    project = run(project, { type: 'trim', clipId: a.p, edge: 'end', to: f(120) })
    expect(project).toEqual(a.project)
  })

  it('stops at the ends of the source, at neighbours, and at one frame', () => {
    const d = desk()
    const a = placePair(d.project, d.picture1.id, d.voice.id, 1, 30, 90, 10)
    const b = placePair(a.project, d.picture1.id, d.voice.id, 11, 130, 90)
    const at = (edge: 'start' | 'end', frame: number) => () =>
      run(b.project, { type: 'trim', clipId: a.p, edge, to: f(frame) })
    expect(refusal(at('start', 15)).message).toContain('nothing more')
    expect(refusal(at('end', 140)).message).toContain('in the way')
    expect(refusal(at('end', 30)).message).toContain('one frame')
    expect(layout(at('start', 20)(), d.picture1.id)[0]).toEqual([20, 100])
  })

  it('leaves a linked voice alone whose edge was moved before', () => {
    const d = desk()
    const a = placePair(d.project, d.picture1.id, d.voice.id, 1, 0, 90)
    let project = run(a.project, { type: 'trim', clipId: a.s, edge: 'end', to: f(120), linked: false })
    project = run(project, { type: 'trim', clipId: a.p, edge: 'end', to: f(60) })
    expect(layout(project, d.picture1.id)).toEqual([[0, 60]])
    expect(layout(project, d.voice.id)).toEqual([[0, 120]])
  })

  it('lets a still grow without end', () => {
    const d = desk()
    let project = run(d.project, {
      type: 'place',
      mode: 'free',
      pieces: [
        {
          clipId: uuid(1),
          trackId: d.picture1.id,
          assetId: CARD,
          stream: null,
          start: f(300),
          length: f(30),
          source: 0,
          link: null,
        },
      ],
    })
    project = run(project, { type: 'trim', clipId: uuid(1), edge: 'start', to: 0 })
    project = run(project, { type: 'trim', clipId: uuid(1), edge: 'end', to: f(9000) })
    expect(layout(project, d.picture1.id)).toEqual([[0, 9000]])
    expect(check(project)).toEqual([])
  })
})

describe('split and remove', () => {
  it('splits one pair, or everything under the playhead', () => {
    const d = desk()
    const a = placePair(d.project, d.picture1.id, d.voice.id, 1, 0, 90)
    const b = placePair(a.project, d.picture2.id, d.effects.id, 11, 0, 90)
    const one = run(b.project, { type: 'split', reelId: d.reelId, at: f(40), clipIds: [a.p] })
    expect(layout(one, d.picture1.id)).toEqual([
      [0, 40],
      [40, 50],
    ])
    expect(layout(one, d.voice.id)).toEqual([
      [0, 40],
      [40, 50],
    ])
    expect(layout(one, d.picture2.id)).toEqual([[0, 90]])
    const all = run(b.project, { type: 'split', reelId: d.reelId, at: f(40), clipIds: null })
    expect(layout(all, d.picture2.id)).toEqual([
      [0, 40],
      [40, 50],
    ])
    expect(refusal(() => run(b.project, { type: 'split', reelId: d.reelId, at: f(90), clipIds: null })).rule).toBe(
      'nothing',
    )
  })

  it('leaves a gap, or closes up every track', () => {
    const d = desk()
    let { project } = placePair(d.project, d.picture1.id, d.voice.id, 1, 0, 30)
    const b = placePair(project, d.picture1.id, d.voice.id, 11, 30, 40)
    project = placePair(b.project, d.picture1.id, d.voice.id, 21, 70, 30).project
    const over = placePair(project, d.picture2.id, d.effects.id, 31, 75, 10)
    const gap = run(over.project, { type: 'remove', clipIds: [b.p], closeUp: false })
    expect(layout(gap, d.picture1.id)).toEqual([
      [0, 30],
      [70, 30],
    ])
    const closed = run(over.project, { type: 'remove', clipIds: [b.p], closeUp: true })
    expect(layout(closed, d.picture1.id)).toEqual([
      [0, 30],
      [30, 30],
    ])
    expect(layout(closed, d.voice.id)).toEqual([
      [0, 30],
      [30, 30],
    ])
    expect(layout(closed, d.picture2.id)).toEqual([[35, 10]])
    expect(run(gap, { type: 'closeGap', trackId: d.picture1.id, at: f(50) })).toEqual(closed)
  })

  it('says which track a close-up would crush, and can close one track alone', () => {
    const d = desk()
    const a = placePair(d.project, d.picture1.id, d.voice.id, 1, 0, 60)
    let { project } = placePair(a.project, d.picture1.id, d.voice.id, 11, 60, 30)
    project = placePair(project, d.picture2.id, d.effects.id, 21, 10, 60).project
    project = placePair(project, d.picture2.id, d.effects.id, 31, 70, 10).project
    expect(refusal(() => run(project, { type: 'remove', clipIds: [a.p], closeUp: true })).message).toContain(
      'Picture 2',
    )
    const alone = run(project, { type: 'remove', clipIds: [a.p], closeUp: true, scope: 'track' })
    expect(layout(alone, d.picture1.id)).toEqual([[0, 30]])
    expect(layout(alone, d.voice.id)).toEqual([[0, 30]])
    expect(layout(alone, d.picture2.id)).toEqual([
      [10, 60],
      [70, 10],
    ])
  })

  it('refuses to touch a locked track', () => {
    const d = desk()
    const a = placePair(d.project, d.picture1.id, d.voice.id, 1, 0, 60)
    const locked = run(a.project, { type: 'setTrack', trackId: d.voice.id, set: { locked: true } })
    expect(refusal(() => run(locked, { type: 'remove', clipIds: [a.p], closeUp: false })).message).toContain('Voice')
  })
})

describe('settings', () => {
  it('moves every edge to the grid of a new rate and keeps neighbours touching', () => {
    const d = desk()
    let { project } = placePair(d.project, d.picture1.id, d.voice.id, 1, 0, 31)
    project = placePair(project, d.picture1.id, d.voice.id, 11, 31, 1).project
    project = placePair(project, d.picture1.id, d.voice.id, 21, 32, 57).project
    const rate = { num: 24000, den: 1001 }
    const next = run(project, {
      type: 'setReel',
      reelId: d.reelId,
      set: { format: { width: 1080, height: 1920, rate } },
    })
    expect(check(next)).toEqual([])
    const clips = clipsOn(next, d.picture1.id)
    expect(clipEnd(clips[0]!)).toBe(clips[1]!.start)
    expect(clipEnd(clips[1]!)).toBe(clips[2]!.start)
  })

  it('takes the sound of a pair along to the grid of a new rate, and leaves one frame one frame', () => {
    const d = desk()
    let { project } = placePair(d.project, d.picture1.id, d.voice.id, 1, 0, 46, 30)
    project = placePair(project, d.picture1.id, d.voice.id, 11, 46, 1, 30).project
    project = placePair(project, d.picture1.id, d.voice.id, 21, 47, 57, 30).project
    const into = (from: typeof project, num: number) =>
      run(from, {
        type: 'setReel',
        reelId: d.reelId,
        set: { format: { ...from.reels[d.reelId]!.format, rate: { num, den: 1 } } },
      })
    for (const rates of [
      [24, 30],
      [24, 50, 30],
      [60, 25, 30],
    ]) {
      let next = project
      for (const rate of rates) {
        next = into(next, rate)
        expect(check(next)).toEqual([])
        const [pictures, sounds] = [d.picture1, d.voice].map(({ id }) => clipsOn(next, id))
        for (const [i, picture] of pictures!.entries()) {
          expect([picture.start, clipEnd(picture)]).toEqual([sounds![i]!.start, clipEnd(sounds![i]!)])
          expect(sourceTimeAt(picture, picture.start)).toBe(sourceTimeAt(sounds![i]!, sounds![i]!.start))
        }
        expect([pictures![0], pictures![1]].map((clip) => clipEnd(clip!))).toEqual([
          pictures![1]!.start,
          pictures![2]!.start,
        ])
      }
      expect(clipsOn(next, d.picture1.id)[1]!.length).toBe(TICKS_PER_SECOND / 30)
    }
  })

  it('makes a second reel that shares nothing with the first', () => {
    const d = desk()
    const pair = placePair(d.project, d.picture1.id, d.voice.id, 1, 0, 31)
    let { project } = placePair(pair.project, d.picture1.id, d.voice.id, 11, 31, 40)
    project = run(project, {
      type: 'addTransitions',
      transitions: [
        {
          ...{ id: uuid(60), leftId: pair.p, rightId: null, kind: 'dissolve', settings: {} },
          ...{ before: f(6), after: 0, missing: 'hold' },
        },
      ],
    } as never)
    const effect = { domain: 'picture' as const, kind: 'blur', settings: {}, strength: 50 }
    project = run(project, { type: 'addEffects', owner: 'clip', ownerIds: [pair.p], effects: [effect] })
    project = run(project, {
      type: 'addMarkers',
      markers: [
        { note: '', id: uuid(61), reelId: d.reelId, clipId: null, at: f(3), length: 0, name: 'Quay', colour: 'moss' },
      ],
    } as never)
    const next = run(project, { type: 'duplicateReel', reelId: d.reelId, newReelId: uuid(70), name: 'Short one' })
    expect(check(next)).toEqual([])
    const twice = (map: Record<string, unknown>, was: Record<string, unknown>) =>
      expect(Object.keys(map)).toHaveLength(2 * Object.keys(was).length)
    for (const kind of ['tracks', 'clips', 'transitions', 'markers', 'effects'] as const)
      twice(next[kind], project[kind])
    const copies = Object.values(next.clips).filter((clip) => next.tracks[clip.trackId]!.reelId === uuid(70))
    expect(copies.map(({ start, length }) => [start, length]).sort()).toEqual(
      Object.values(project.clips)
        .map(({ start, length }) => [start, length])
        .sort(),
    )
    const links = new Set(copies.map(({ link }) => link))
    expect(links.size).toBe(2)
    expect(Object.values(project.clips).some(({ link }) => links.has(link))).toBe(false)
    // What is done to one is not done to the other.
    const without = run(next, { type: 'removeReel', reelId: d.reelId })
    expect(check(without)).toEqual([])
    expect(Object.keys(without.effects)).toHaveLength(1)
  })

  it('sets level and opacity within their range', () => {
    const d = desk()
    const a = placePair(d.project, d.picture1.id, d.voice.id, 1, 0, 31)
    const next = run(a.project, { type: 'setClips', clipIds: [a.p, a.s], set: { gain: -6, fit: 'fill' } })
    expect(next.clips[a.p]).toMatchObject({ gain: -6, fit: 'fill' })
    const bad = commandSchema.safeParse({ type: 'setClips', clipIds: [a.p], set: { gain: 40 } })
    expect(bad.error?.issues[0]?.path).toEqual(['set', 'gain'])
  })

  it('removes a source with its clips, and a track with its clips, leaving partners unlinked', () => {
    const d = desk()
    const a = placePair(d.project, d.picture1.id, d.voice.id, 1, 0, 31)
    expect(Object.keys(run(a.project, { type: 'removeAsset', assetId: HARBOUR }).clips)).toEqual([])
    // What a worker found out late neither brings a source back nor undoes a new name.
    const asset = { ...ASSETS[0]!, length: 7 * 705_600_000 }
    const named = run(a.project, { type: 'renameAsset', assetId: HARBOUR, name: 'At the quay' })
    expect(run(named, { type: 'addAsset', asset, again: true }).assets[HARBOUR]).toMatchObject({
      name: 'At the quay',
      length: asset.length,
    })
    const out = run(named, { type: 'removeAsset', assetId: HARBOUR })
    expect(run(out, { type: 'addAsset', asset, again: true })).toEqual(out)
    const both = run(a.project, { type: 'removeAssets', assetIds: [HARBOUR, CARD, HARBOUR] })
    expect([Object.keys(both.clips), both.assets[CARD], both.assets[HARBOUR]]).toEqual([[], undefined, undefined])
    const without = run(a.project, { type: 'removeTrack', trackId: d.voice.id })
    expect(Object.values(without.clips).map((clip) => clip.link)).toEqual([null])
    expect(check(without)).toEqual([])
  })
})

describe('with every track locked', () => {
  it('cutting out and closing gaps are refused in words', () => {
    const { project, reelId, picture1, voice } = desk()
    const placed = placePair(project, picture1.id, voice.id, 0x900, 30, 60).project
    const trackIds = Object.keys(placed.tracks)
    const locked = trackIds.reduce(
      (now, trackId) => run(now, { type: 'setTrack', trackId, set: { locked: true } }),
      placed,
    )
    for (const scope of ['unlocked', 'track'] as const) {
      const range = { type: 'cutOut', reelId, from: f(40), to: f(50), scope, closeUp: true } as const
      expect(refusal(() => run(locked, scope === 'track' ? { ...range, trackId: picture1.id } : range)).rule).toBe(
        'locked',
      )
    }
    expect(refusal(() => run(locked, { type: 'closeGap', trackId: picture1.id, at: 0, scope: 'unlocked' })).rule).toBe(
      'locked',
    )
  })
})
