import { describe, expect, it } from 'vitest'
import { check, clipsOn, pictureLayers, planFrame, slips, sourceTimeAt, tracksOf } from '../src/index'
import { CARD, desk, f, HARBOUR, layout, placePair, refusal, run, SONG, uuid } from './helpers'

const HD = { width: 1920, height: 1080 }

/** A still or a silent part of harbour for a picture track. */
function shot(n: number, trackId: string, start: number, length: number, assetId = HARBOUR) {
  return { clipId: uuid(n), trackId, assetId, stream: null, start: f(start), length: f(length), source: 0, link: null }
}

describe('append, stack above, replace', () => {
  it('adds to the end, behind whatever ends last on the tracks in question', () => {
    const d = desk()
    const { project } = placePair(d.project, d.picture1.id, d.voice.id, 1, 0, 60)
    const longer = run(project, { type: 'trim', clipId: uuid(2), edge: 'end', to: f(70), linked: false })
    const link = uuid(99)
    const base = { assetId: HARBOUR, start: 0, length: f(30), source: 0, link }
    const next = run(longer, {
      type: 'append',
      pieces: [
        { ...base, clipId: uuid(5), trackId: d.picture1.id, stream: null },
        { ...base, clipId: uuid(6), trackId: d.voice.id, stream: 0 },
      ],
    })
    expect(layout(next, d.picture1.id)).toEqual([
      [0, 60],
      [70, 30],
    ])
    expect(layout(next, d.voice.id)).toEqual([
      [0, 70],
      [70, 30],
    ])
  })

  it('stacks in front of everything, on a free track or on a new one', () => {
    const d = desk()
    const { project } = placePair(d.project, d.picture1.id, d.voice.id, 1, 0, 60)
    const once = run(project, { type: 'stackAbove', pieces: [shot(5, d.picture1.id, 10, 20, CARD)] })
    expect(layout(once, d.picture2.id)).toEqual([[10, 20]])
    const twice = run(once, { type: 'stackAbove', pieces: [shot(6, d.picture1.id, 15, 20, CARD)] })
    const pictures = tracksOf(twice, d.reelId).filter((track) => track.kind === 'picture')
    expect(pictures.map((track) => track.name)).toEqual(['Picture 1', 'Picture 2', 'Picture 3'])
    expect(layout(twice, pictures[2]!.id)).toEqual([[15, 20]])
    // Where nothing is in front, what shows is the stacked one.
    expect(pictureLayers(planFrame(twice, d.reelId, f(20), HD)).map((layer) => layer.assetId)).toEqual([
      HARBOUR,
      CARD,
      CARD,
    ])
  })

  it('replaces a source in its place with its settings, and its sound too', () => {
    const d = desk()
    let { project } = placePair(d.project, d.picture1.id, d.voice.id, 1, 30, 60, 30)
    project = run(project, { type: 'setParams', clipIds: [uuid(1)], set: { opacity: 50 } })
    const other = run(project, { type: 'replace', clipId: uuid(1), assetId: HARBOUR, source: f(200) })
    expect(sourceTimeAt(other.clips[uuid(1)]!, f(30))).toBe(f(200))
    expect(sourceTimeAt(other.clips[uuid(2)]!, f(30))).toBe(f(200))
    expect(other.clips[uuid(1)]).toMatchObject({ start: f(30), length: f(60), params: { opacity: 50 } })
    // A still has no sound: the linked one goes and the picture is alone.
    const still = run(project, { type: 'replace', clipId: uuid(1), assetId: CARD })
    expect(layout(still, d.voice.id)).toEqual([])
    expect(still.clips[uuid(1)]!.link).toBeNull()
    // A source that is shorter than the clip ends it early.
    expect(
      layout(run(project, { type: 'replace', clipId: uuid(1), assetId: HARBOUR, source: f(280) }), d.picture1.id),
    ).toEqual([[30, 20]])
    expect(refusal(() => run(project, { type: 'replace', clipId: uuid(1), assetId: SONG })).message).toContain(
      'no picture',
    )
  })

  it('keeps the length of a clip that is longer than its new source: slower, or with the last frame held', () => {
    const d = desk()
    const { project } = placePair(d.project, d.picture1.id, d.voice.id, 1, 30, 60, 30)
    const from = { type: 'replace' as const, clipId: uuid(1), assetId: HARBOUR, source: f(280) }
    const slow = run(project, { ...from, short: 'slow' })
    expect(layout(slow, d.picture1.id)).toEqual([[30, 60]])
    expect(layout(slow, d.voice.id)).toEqual([[30, 60]])
    // Twenty frames last for sixty, in the sound as in the picture.
    expect(sourceTimeAt(slow.clips[uuid(1)]!, f(60))).toBe(f(290))
    expect(sourceTimeAt(slow.clips[uuid(2)]!, f(60))).toBe(f(290))
    expect(check(slow)).toEqual([])
    const held = run(project, { ...from, short: 'hold' })
    expect(layout(held, d.picture1.id)).toEqual([
      [30, 20],
      [50, 40],
    ])
    expect(layout(held, d.voice.id)).toEqual([[30, 20]])
    const last = clipsOn(held, d.picture1.id)[1]!
    expect(sourceTimeAt(last, f(89))).toBe(f(299))
    expect(check(held)).toEqual([])
    // With enough of it there is nothing to slow or to hold.
    for (const short of ['slow', 'hold'] as const)
      expect(layout(run(project, { ...from, source: f(100), short }), d.picture1.id)).toEqual([[30, 60]])
  })
})

describe('duplicate, paste, swap', () => {
  it('duplicates a pair behind itself; the copies are a pair of their own', () => {
    const d = desk()
    let { project } = placePair(d.project, d.picture1.id, d.voice.id, 1, 0, 60)
    project = placePair(project, d.picture1.id, d.voice.id, 11, 60, 30).project
    project = run(project, {
      type: 'addMarkers',
      markers: [
        { id: uuid(70), reelId: null, clipId: uuid(1), at: f(5), length: 0, name: 'clap', colour: 'lamp', note: '' },
      ],
    })
    const next = run(project, { type: 'duplicate', clipIds: [uuid(1)] })
    expect(layout(next, d.picture1.id)).toEqual([
      [0, 60],
      [60, 60],
      [120, 30],
    ])
    const [first, copy] = clipsOn(next, d.picture1.id)
    expect(copy!.link).not.toBe(first!.link)
    expect(clipsOn(next, d.voice.id)[1]!.link).toBe(copy!.link)
    expect(
      Object.values(next.markers)
        .map((marker) => marker.clipId)
        .sort(),
    ).toEqual([first!.id, copy!.id].sort())
  })

  it('brings a reel along that the project does not have, also from before reels had a level', () => {
    const d = desk()
    const { project } = placePair(d.project, d.picture1.id, d.voice.id, 1, 30, 60, 10)
    const { gain: _, params: __, ...reel } = { ...d.project.reels[d.reelId]!, id: uuid(0x910), name: 'Older' }
    const pasted = run(project, {
      type: 'paste',
      clips: [project.clips[uuid(1)]!],
      at: 0,
      reels: [{ reel, tracks: [], clips: [], transitions: [], markers: [] }],
    } as never)
    expect(pasted.reels[uuid(0x910)]).toMatchObject({ name: 'Older', gain: 0, params: {} })
    expect(check(pasted)).toEqual([])
  })

  it('pastes clips with what was set on them, also into another reel, and refuses sources that are not there', () => {
    const d = desk()
    let { project } = placePair(d.project, d.picture1.id, d.voice.id, 1, 30, 60, 10)
    project = run(project, { type: 'setParams', clipIds: [uuid(1)], set: { size: 50 } })
    project = run(project, {
      type: 'addReel',
      reelId: uuid(0x900),
      name: 'Tall',
      format: { width: 1080, height: 1920, rate: { num: 25, den: 1 } },
    })
    const [target] = tracksOf(project, uuid(0x900))
    const copied = { ...project.clips[uuid(1)]!, trackId: target!.id }
    const pasted = run(project, { type: 'paste', clips: [copied], at: 0 })
    const [clip] = clipsOn(pasted, target!.id)
    expect(clip).toMatchObject({ start: 0, params: { size: 50 } })
    expect(check(pasted)).toEqual([])
    const foreign = { ...copied, kind: 'media' as const, assetId: uuid(0xdead) }
    expect(refusal(() => run(project, { type: 'paste', clips: [foreign], at: 0 })).message).toContain(
      'not in this project',
    )
  })

  it('swaps neighbours with their sound and keeps the gap between them', () => {
    const d = desk()
    let { project } = placePair(d.project, d.picture1.id, d.voice.id, 1, 10, 60)
    project = placePair(project, d.picture1.id, d.voice.id, 11, 80, 30).project
    const next = run(project, { type: 'swap', clipId: uuid(1), with: 'next' })
    expect(layout(next, d.picture1.id)).toEqual([
      [10, 30],
      [50, 60],
    ])
    expect(layout(next, d.voice.id)).toEqual([
      [10, 30],
      [50, 60],
    ])
    expect(clipsOn(next, d.picture1.id)[1]!.id).toBe(uuid(1))
    expect(run(next, { type: 'swap', clipId: uuid(1), with: 'previous' }).clips).toEqual(project.clips)
    expect(refusal(() => run(project, { type: 'swap', clipId: uuid(1), with: 'previous' })).rule).toBe('nothing')
  })
})

describe('reorder', () => {
  it('puts a shot before another with its sound; the reel stays as long as it was', () => {
    const d = desk()
    let { project } = placePair(d.project, d.picture1.id, d.voice.id, 1, 0, 60)
    project = placePair(project, d.picture1.id, d.voice.id, 11, 60, 30, 10).project
    project = placePair(project, d.picture1.id, d.voice.id, 21, 90, 40, 20).project
    const first = run(project, { type: 'reorder', clipId: uuid(21), before: uuid(1) })
    expect(clipsOn(first, d.picture1.id).map((clip) => clip.id)).toEqual([uuid(21), uuid(1), uuid(11)])
    expect(layout(first, d.picture1.id)).toEqual([
      [0, 40],
      [40, 60],
      [100, 30],
    ])
    expect(layout(first, d.voice.id)).toEqual(layout(first, d.picture1.id))
    const last = run(project, { type: 'reorder', clipId: uuid(1), before: null })
    expect(layout(last, d.picture1.id)).toEqual([
      [0, 30],
      [30, 40],
      [70, 60],
    ])
    expect(slips(last).size).toBe(0)
  })
})

describe('freeze and join', () => {
  it('holds one frame while later clips make room', () => {
    const d = desk()
    let { project } = placePair(d.project, d.picture1.id, d.voice.id, 1, 0, 60, 30)
    project = placePair(project, d.picture1.id, d.voice.id, 11, 60, 30).project
    const frozen = run(project, { type: 'freeze', clipId: uuid(1), at: f(20), length: f(45) })
    expect(layout(frozen, d.picture1.id)).toEqual([
      [0, 20],
      [20, 45],
      [65, 40],
      [105, 30],
    ])
    const held = [25, 64].map((at) => pictureLayers(planFrame(frozen, d.reelId, f(at), HD))[0]!.time)
    expect(held).toEqual([f(50), f(50)])
    expect(pictureLayers(planFrame(frozen, d.reelId, f(66), HD))[0]!.time).toBe(f(51))
    expect(check(frozen)).toEqual([])
    // A frozen frame has no end of its own.
    const longer = run(frozen, {
      type: 'trim',
      clipId: clipsOn(frozen, d.picture1.id)[1]!.id,
      edge: 'end',
      to: f(500),
      mode: 'ripple',
    })
    expect(layout(longer, d.picture1.id)[1]).toEqual([20, 480])
  })

  it('joins the halves of a split, pair by pair, and nothing else', () => {
    const d = desk()
    const { project, p } = placePair(d.project, d.picture1.id, d.voice.id, 1, 0, 60, 30)
    const halves = run(project, { type: 'split', reelId: d.reelId, at: f(25), clipIds: [p] })
    const [left, right] = clipsOn(halves, d.picture1.id)
    const joined = run(halves, { type: 'join', leftId: left!.id, rightId: right!.id })
    expect(joined.clips).toEqual(project.clips)
    const slipped = run(halves, { type: 'slip', clipIds: [right!.id], by: f(5) })
    expect(refusal(() => run(slipped, { type: 'join', leftId: left!.id, rightId: right!.id })).rule).toBe('touch')
  })
})

describe('cutting out and closing gaps', () => {
  it('cuts a range out of every track and closes up in sync', () => {
    const d = desk()
    let { project } = placePair(d.project, d.picture1.id, d.voice.id, 1, 0, 90)
    project = placePair(project, d.picture1.id, d.voice.id, 11, 90, 60).project
    const lifted = run(project, { type: 'cutOut', reelId: d.reelId, from: f(60), to: f(100), closeUp: false })
    expect(layout(lifted, d.picture1.id)).toEqual([
      [0, 60],
      [100, 50],
    ])
    const closed = run(project, { type: 'cutOut', reelId: d.reelId, from: f(60), to: f(100), closeUp: true })
    expect(layout(closed, d.picture1.id)).toEqual([
      [0, 60],
      [60, 50],
    ])
    expect(layout(closed, d.voice.id)).toEqual([
      [0, 60],
      [60, 50],
    ])
    expect(slips(closed).size).toBe(0)
    const one = run(project, {
      type: 'cutOut',
      reelId: d.reelId,
      from: f(30),
      to: f(60),
      closeUp: true,
      scope: 'track',
      trackId: d.voice.id,
    })
    expect(layout(one, d.picture1.id)).toEqual([
      [0, 90],
      [90, 60],
    ])
    expect(layout(one, d.voice.id)).toEqual([
      [0, 30],
      [30, 30],
      [60, 60],
    ])
    expect(
      refusal(() => run(project, { type: 'cutOut', reelId: d.reelId, from: f(60), to: f(60), closeUp: true })).rule,
    ).toBe('length')
  })

  it('closes every gap of a track, or only those common to all', () => {
    const d = desk()
    let { project } = placePair(d.project, d.picture1.id, d.voice.id, 1, 20, 30)
    project = placePair(project, d.picture1.id, d.voice.id, 11, 60, 30).project
    project = placePair(project, d.picture1.id, d.voice.id, 21, 120, 30).project
    project = run(project, { type: 'place', mode: 'free', pieces: [shot(31, d.picture2.id, 95, 10)] })
    const all = run(project, { type: 'closeGaps', trackId: d.picture1.id })
    expect(layout(all, d.picture1.id)).toEqual([
      [0, 30],
      [30, 30],
      [70, 30],
    ])
    expect(layout(all, d.picture2.id)).toEqual([[60, 10]])
    expect(layout(all, d.voice.id)).toEqual(layout(all, d.picture1.id))
    const one = run(project, { type: 'closeGaps', trackId: d.picture1.id, scope: 'track' })
    expect(layout(one, d.picture1.id)).toEqual([
      [0, 30],
      [30, 30],
      [60, 30],
    ])
    expect(layout(one, d.picture2.id)).toEqual([[95, 10]])
    expect(refusal(() => run(one, { type: 'closeGaps', trackId: d.picture1.id, scope: 'track' })).rule).toBe('nothing')
  })

  it('carries reel markers along when all tracks move, and keeps those of the time taken out', () => {
    const d = desk()
    let { project } = placePair(d.project, d.picture1.id, d.voice.id, 1, 0, 90)
    project = placePair(project, d.picture1.id, d.voice.id, 11, 90, 60).project
    const marker = (n: number, at: number, length = 0) => ({
      id: uuid(n),
      reelId: d.reelId,
      clipId: null,
      at: f(at),
      length: f(length),
      name: '',
      colour: 'moss' as const,
      note: '',
    })
    project = run(project, {
      type: 'addMarkers',
      markers: [marker(71, 20), marker(72, 100), marker(73, 130), marker(74, 80, 40)],
    })
    const places = (p: typeof project) =>
      [71, 72, 73, 74].map((n) => [p.markers[uuid(n)]!.at / f(1), p.markers[uuid(n)]!.length / f(1)])
    const closed = run(project, { type: 'cutOut', reelId: d.reelId, from: f(90), to: f(120), closeUp: true })
    expect(places(closed)).toEqual([
      [20, 0],
      [90, 0],
      [100, 0],
      [80, 10],
    ])
    const alone = run(project, { type: 'remove', clipIds: [uuid(1)], closeUp: true, scope: 'track' })
    expect(places(alone)).toEqual(places(project))
  })
})
