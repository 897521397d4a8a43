import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import {
  check,
  clipsOn,
  CommandRefused,
  pictureLayers,
  planFrame,
  planSound,
  tracksOf,
  type LayerPlan,
  type Project,
  type ReelLayer,
} from '../src/index'
import { CARD, desk, f, HARBOUR, layout, placePair, refusal, run, SONG, uuid } from './helpers'

const HD = { width: 1920, height: 1080 }
const INNER = uuid(0x800)

/** Harbour with a card over it and a song below, made into a reel of their own. */
function nested() {
  const d = desk()
  let { project } = placePair(d.project, d.picture1.id, d.voice.id, 1, 30, 90, 15)
  project = run(project, {
    type: 'place',
    mode: 'free',
    pieces: [
      {
        clipId: uuid(40),
        trackId: d.picture2.id,
        assetId: CARD,
        stream: null,
        start: f(60),
        length: f(30),
        source: 0,
        link: null,
      },
      {
        clipId: uuid(41),
        trackId: d.music.id,
        assetId: SONG,
        stream: 0,
        start: f(30),
        length: f(120),
        source: f(50),
        link: null,
        gain: -6,
      },
    ],
  })
  const before = project
  project = run(project, { type: 'nest', clipIds: [uuid(1), uuid(40), uuid(41)], reelId: INNER, name: 'Boats' })
  return { ...d, before, project }
}

/** Layers without the clock of effects that move by themselves: a track's runs with the reel that it is in. */
function clockless(layers: readonly LayerPlan[]): unknown {
  return JSON.parse(
    JSON.stringify(layers, function (this: object, key, value: unknown) {
      return key === 'time' && 'stack' in this ? undefined : value
    }),
  )
}

describe('nested reels', () => {
  it('leave one picture and one sound where the clips were', () => {
    const d = nested()
    expect(check(d.project)).toEqual([])
    expect(layout(d.project, d.picture2.id)).toEqual([[30, 120]])
    expect(layout(d.project, d.picture1.id)).toEqual([])
    expect(layout(d.project, d.voice.id)).toEqual([[30, 120]])
    expect(tracksOf(d.project, INNER).map((track) => track.name)).toEqual(['Picture 1', 'Picture 2', 'Voice', 'Music'])
  })

  it('show and sound like the clips they hold', () => {
    const d = nested()
    for (const at of [30, 59, 60, 89, 119]) {
      const flat = pictureLayers(planFrame(d.before, d.reelId, f(at), HD))
      expect(pictureLayers(planFrame(d.project, d.reelId, f(at), HD))).toEqual(flat)
    }
    // One piece stands for the nested reel; inside it lies what lay in the reel, as far from its start.
    const [shell, ...others] = planSound(d.project, d.reelId, 0, f(150)).pieces
    expect(others).toEqual([])
    const at = (frame: number) => f(frame) / 14_700
    expect(shell).toMatchObject({ at: at(30), length: at(120), from: 0 })
    const flat = planSound(d.before, d.reelId, 0, f(150)).pieces
    const facts = (pieces: typeof flat, by: number) =>
      pieces.map((piece) => [piece.assetId, piece.at + by, piece.length, piece.from, piece.gain])
    expect(facts(shell!.nested!.pieces, at(30))).toEqual(facts(flat, 0))
  })

  it('keep their transparency and are placed as one picture', () => {
    const d = nested()
    const shell = clipsOn(d.project, d.picture2.id)[0]!
    const small = run(d.project, {
      type: 'setParams',
      clipIds: [shell.id],
      set: { opacity: 50, size: 50 },
    })
    const plan = planFrame(small, d.reelId, f(70), HD)
    expect(plan.layers).toHaveLength(1)
    const [layer] = plan.layers as [ReelLayer]
    expect(layer).toMatchObject({ kind: 'reel', opacity: 0.5, alpha: true, matrix: [0.5, 0, 0, 0.5, 480, 270] })
    expect(layer.plan.background).toBeNull()
    expect(layer.plan.layers).toHaveLength(2)
    // Past the end of the nested reel nothing is drawn.
    expect(planFrame(small, d.reelId, f(151), HD).layers).toEqual([])
  })

  it('open out to what they were made of', () => {
    const d = nested()
    const shell = clipsOn(d.project, d.picture2.id)[0]!
    const open = run(d.project, { type: 'unnest', clipId: shell.id })
    expect(check(open)).toEqual([])
    for (const at of [30, 75, 119])
      expect(pictureLayers(planFrame(open, d.reelId, f(at), HD))).toEqual(
        pictureLayers(planFrame(d.before, d.reelId, f(at), HD)),
      )
    const faded = run(d.project, { type: 'setParams', clipIds: [shell.id], set: { opacity: 50 } })
    expect(refusal(() => run(faded, { type: 'unnest', clipId: shell.id })).rule).toBe('changed')
  })

  it('change no frame by being made, nor by being opened out, whatever blends, adjusts or moves in them', () => {
    let ids = 0x7000
    const shot = fc.record({
      lane: fc.nat(3),
      start: fc.nat(60),
      length: fc.integer({ min: 10, max: 60 }),
      blend: fc.constantFrom('normal', 'screen', 'multiply', 'overlay'),
      size: fc.constantFrom(100, 60, 130),
      opacity: fc.constantFrom(100, 40),
      adjusts: fc.boolean(),
    })
    const lanes = fc.array(
      fc.record({ hidden: fc.boolean(), size: fc.constantFrom(100, 100, 70), effect: fc.boolean() }),
      {
        minLength: 4,
        maxLength: 4,
      },
    )
    let opened = 0
    fc.assert(
      fc.property(fc.array(shot, { minLength: 1, maxLength: 8 }), lanes, fc.nat(3), fc.nat(3), (shots, kinds, a, b) => {
        const d = desk()
        let project = d.project
        const tracks = [d.picture1.id, d.picture2.id]
        while (tracks.length < 4) {
          const trackId = uuid((ids += 8))
          project = run(project, { type: 'addTrack', reelId: d.reelId, trackId, purpose: 'picture', name: 'More' })
          tracks.push(trackId)
        }
        for (const [i, { hidden, size, effect }] of kinds.entries()) {
          const trackId = tracks[i]!
          if (hidden) project = run(project, { type: 'setTrack', trackId, set: { hidden } })
          if (size !== 100)
            project = run(project, {
              ...{ type: 'setTrackParams', trackId },
              set: {
                size: { keys: [f(0), f(50)].map((at, k) => ({ at, value: size + k * 20, ease: 'linear' as const })) },
              },
            })
          if (effect)
            project = run(project, {
              ...{ type: 'addEffects', owner: 'track', ownerIds: [trackId] },
              effects: [{ domain: 'picture', kind: 'sepia', settings: {}, strength: 100 }],
            })
        }
        const placed: { id: string; lane: number }[] = []
        for (const { lane, start, length, blend, size, opacity, adjusts } of shots) {
          const clipId = uuid((ids += 8))
          const base = { clipId, trackId: tracks[lane]!, start: f(start), length: f(length) }
          try {
            project = run(
              project,
              adjusts
                ? { type: 'addGenerated', mode: 'free', generated: [{ ...base, kind: 'adjustment' }] }
                : {
                    type: 'place',
                    mode: 'free',
                    pieces: [{ ...base, assetId: lane % 2 ? CARD : HARBOUR, stream: null, source: 0, link: null }],
                  },
            )
            project = run(project, { type: 'setParams', clipIds: [clipId], set: { blend, size, opacity } })
            placed.push({ id: clipId, lane })
          } catch (error) {
            if (!(error instanceof CommandRefused)) throw error
          }
        }
        // Neighbouring tracks: what lies between others that go into a reel would come to lie behind it.
        const [low, high] = [Math.min(a, b), Math.max(a, b)]
        const chosen = placed.filter(({ lane }) => lane >= low && lane <= high).map(({ id }) => id)
        if (chosen.length === 0) return
        const before = project
        const frames = [0, 13, 30, 47, 75, 100].map((n) => f(n))
        const seen = (of: Project) => frames.map((at) => clockless(planFrame(of, d.reelId, at, HD).layers))
        const nested = run(project, { type: 'nest', clipIds: chosen, reelId: uuid((ids += 8)), name: 'Inner' })
        expect(check(nested)).toEqual([])
        expect(seen(nested)).toEqual(seen(before))
        const shell = Object.values(nested.clips).find((clip) => clip.kind === 'reel')!
        const open = run(nested, { type: 'unnest', clipId: shell.id })
        expect(check(open)).toEqual([])
        expect(seen(open)).toEqual(seen(before))
        opened++
      }),
      { numRuns: Number(process.env.DUSK_RUNS ?? 300) },
    )
    expect(opened).toBeGreaterThan(100)
  })

  it('that are not looked through are one picture, and are not opened out where that would be seen', () => {
    const d = nested()
    const shell = clipsOn(d.project, d.picture2.id)[0]!
    const card = Object.values(d.project.clips).find((clip) => clip.kind === 'media' && clip.assetId === CARD)!
    const blended = run(d.project, { type: 'setParams', clipIds: [card.id], set: { blend: 'screen' } })
    expect(planFrame(blended, d.reelId, f(70), HD).layers.map(({ kind }) => kind)).toEqual(['picture', 'picture'])
    const alone = run(blended, { type: 'setClips', clipIds: [shell.id], set: { through: false } })
    expect(planFrame(alone, d.reelId, f(70), HD).layers.map(({ kind }) => kind)).toEqual(['reel'])
    expect(refusal(() => run(alone, { type: 'unnest', clipId: shell.id })).message).toContain('looked through')
    expect(refusal(() => run(alone, { type: 'setClips', clipIds: [card.id], set: { through: true } })).rule).toBe(
      'kind',
    )
    // What is done to all of it is done to one picture.
    const small = run(blended, { type: 'setParams', clipIds: [shell.id], set: { size: 50 } })
    expect(planFrame(small, d.reelId, f(70), HD).layers.map(({ kind }) => kind)).toEqual(['reel'])
  })

  it('never play inside themselves, and are not removed while they play somewhere', () => {
    const d = nested()
    const inner = tracksOf(d.project, INNER)[0]!
    const loop = (nestedId: string, trackId: string) =>
      run(d.project, {
        type: 'place',
        mode: 'free',
        pieces: [
          { clipId: uuid(60), trackId, nestedId, stream: null, start: f(600), length: f(10), source: 0, link: null },
        ],
      })
    expect(refusal(() => loop(INNER, inner.id)).rule).toBe('cycle')
    expect(refusal(() => loop(d.reelId, inner.id)).rule).toBe('cycle')
    expect(refusal(() => run(d.project, { type: 'removeReel', reelId: INNER })).message).toContain('plays inside')
    expect(refusal(() => run(d.before, { type: 'removeReel', reelId: d.reelId })).rule).toBe('last')
    const freed = run(d.project, {
      type: 'remove',
      clipIds: [clipsOn(d.project, d.picture2.id)[0]!.id],
      closeUp: false,
    })
    const gone = run(freed, { type: 'removeReel', reelId: INNER })
    expect(Object.keys(gone.reels)).toEqual([d.reelId])
    expect(check(gone)).toEqual([])
  })
})

describe('tracks', () => {
  it('are put behind or in front of others of their kind', () => {
    const d = desk()
    const names = (project: typeof d.project) => tracksOf(project, d.reelId).map((track) => track.name)
    const behind = run(d.project, { type: 'moveTrack', trackId: d.picture2.id, after: null })
    expect(names(behind)).toEqual(['Picture 2', 'Picture 1', 'Voice', 'Music', 'Effects'])
    expect(names(run(behind, { type: 'moveTrack', trackId: d.picture2.id, after: d.picture1.id }))).toEqual(
      names(d.project),
    )
    expect(names(run(d.project, { type: 'moveTrack', trackId: d.voice.id, after: d.effects.id }))).toEqual([
      'Picture 1',
      'Picture 2',
      'Music',
      'Effects',
      'Voice',
    ])
    expect(refusal(() => run(d.project, { type: 'moveTrack', trackId: d.voice.id, after: d.picture1.id })).rule).toBe(
      'kind',
    )
  })
})

describe('the library', () => {
  it('files sources in folders that never lie inside themselves', () => {
    const d = desk()
    let project = run(d.project, { type: 'addFolder', folderId: uuid(0xf1), name: 'Quay' })
    project = run(project, { type: 'addFolder', folderId: uuid(0xf2), name: 'Boats', parentId: uuid(0xf1) })
    project = run(project, {
      type: 'setAssets',
      assetIds: [HARBOUR, SONG],
      set: { folderId: uuid(0xf2), label: 'rose' },
    })
    expect(project.assets[SONG]).toMatchObject({ folderId: uuid(0xf2), label: 'rose' })
    expect(
      refusal(() => run(project, { type: 'setFolder', folderId: uuid(0xf1), set: { parentId: uuid(0xf2) } })).rule,
    ).toBe('cycle')
    const gone = run(project, { type: 'removeFolder', folderId: uuid(0xf2) })
    expect(gone.assets[HARBOUR]!.folderId).toBe(uuid(0xf1))
    // A source described anew by the worker stays where it was put.
    const { folderId: _, label: __, note: ___, ...facts } = project.assets[SONG]!
    const again = run(project, { type: 'addAsset', asset: { ...facts, length: facts.length + 14_700 } })
    expect(again.assets[SONG]).toMatchObject({ folderId: uuid(0xf2), label: 'rose', length: facts.length + 14_700 })
  })

  it('keeps subclips of a source in their order, within it, and with it', () => {
    const d = desk()
    const pick = (n: number, from: number, to: number) => ({
      type: 'addSubclip' as const,
      subclip: { id: uuid(n), assetId: HARBOUR, name: `Part ${n}`, from: f(from), to: f(to) },
    })
    let project = run(d.project, pick(0xb1, 30, 60))
    project = run(project, pick(0xb2, 10, 20))
    expect(project.subclips[uuid(0xb1)]!.order < project.subclips[uuid(0xb2)]!.order).toBe(true)
    expect(refusal(() => run(project, pick(0xb3, 20, 20))).rule).toBe('length')
    expect(refusal(() => run(project, pick(0xb3, 301, 400))).rule).toBe('source')
    expect(run(project, { type: 'removeAsset', assetId: HARBOUR }).subclips).toEqual({})
  })
})
