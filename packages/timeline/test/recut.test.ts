import { describe, expect, it } from 'vitest'
import { check, clipsOn, planSound, sourceTimeAt, type MediaClip } from '../src/index'
import { desk, f, HARBOUR, placePair, refusal, run, SONG, uuid } from './helpers'

const SECOND = f(30)
const MUSIC = uuid(1)

/** Music from second 2 to 22, with a level line, an effect and a fade at its end. */
function withMusic() {
  const d = desk()
  let project = run(d.project, {
    type: 'place',
    mode: 'free',
    pieces: [
      {
        ...{ clipId: MUSIC, trackId: d.music.id, assetId: SONG, stream: 0, link: null },
        ...{ start: 2 * SECOND, length: 20 * SECOND, source: 5 * SECOND },
      },
    ],
  })
  project = run(project, {
    type: 'addEffects',
    owner: 'clip',
    ownerIds: [MUSIC],
    effects: [{ domain: 'sound', kind: 'reverb', settings: {}, strength: 100 }],
  })
  project = run(project, {
    type: 'addTransitions',
    transitions: [
      {
        ...{ id: uuid(2), leftId: MUSIC, rightId: null, before: SECOND, after: 0 },
        ...{ kind: 'slow', settings: {}, missing: 'shorten' },
      },
    ],
  })
  const level = {
    keys: [
      { at: 0, value: -3, ease: 'linear' as const },
      { at: 15 * SECOND, value: -9, ease: 'linear' as const },
    ],
  }
  project = run(project, { type: 'setParams', clipIds: [MUSIC], set: { level: level as never } })
  return { ...d, project }
}
const parts = (...list: [number, number][]) =>
  list.map(([source, length]) => ({ source: source * SECOND, length: length * SECOND }))

describe('a sound put together anew', () => {
  it('plays the stretches one after the other, passing into each other, with all that was set', () => {
    const d = withMusic()
    const p = run(d.project, {
      type: 'recut',
      clipIds: [MUSIC],
      parts: parts([5, 6], [15, 10]),
      crossfade: SECOND / 10,
    })
    const [a, b] = clipsOn(p, d.music.id) as MediaClip[]
    expect([a!.start, a!.length, b!.start, b!.length].map((ticks) => ticks / SECOND)).toEqual([2, 6, 8, 10])
    expect([sourceTimeAt(a!, a!.start), sourceTimeAt(b!, b!.start)].map((ticks) => ticks / SECOND)).toEqual([5, 15])
    expect(a!.group).toBe(b!.group)
    expect(a!.group).not.toBeNull()
    // The level line lies over both: clip time goes on.
    expect(b!.head).toBe(6 * SECOND)
    expect(b!.params.level).toEqual(a!.params.level)
    expect(
      Object.values(p.effects)
        .map(({ ownerId }) => ownerId)
        .sort(),
    ).toEqual([a!.id, b!.id].sort())
    const joins = Object.values(p.transitions)
    expect(joins).toHaveLength(2)
    expect(joins.find(({ rightId }) => rightId === b!.id)).toMatchObject({ leftId: a!.id, before: SECOND / 20 })
    expect(joins.find(({ rightId }) => rightId === null)).toMatchObject({ id: uuid(2), leftId: b!.id, kind: 'slow' })
    expect(check(p)).toEqual([])
    expect(planSound(p, d.reelId, 0, 30 * SECOND).pieces).toHaveLength(2)

    // Brought to another length again, and back to one piece.
    const again = run(p, { type: 'recut', clipIds: [b!.id, a!.id], parts: parts([5, 4]), fadeOut: SECOND })
    const [one, ...rest] = clipsOn(again, d.music.id) as MediaClip[]
    expect(rest).toEqual([])
    expect(one).toMatchObject({ id: MUSIC, length: 4 * SECOND, group: null })
    expect(Object.values(again.transitions)).toMatchObject([{ leftId: MUSIC, rightId: null, before: SECOND }])
    expect(check(again)).toEqual([])
  })

  it('is refused where something is in the way, and for what is not one sound', () => {
    const d = withMusic()
    const later = run(d.project, {
      type: 'place',
      mode: 'free',
      pieces: [
        {
          ...{ clipId: uuid(9), trackId: d.music.id, assetId: HARBOUR, stream: 0, link: null },
          ...{ start: 24 * SECOND, length: 2 * SECOND, source: 0 },
        },
      ],
    })
    expect(refusal(() => run(later, { type: 'recut', clipIds: [MUSIC], parts: parts([0, 23]) })).message).toContain(
      'in the way',
    )
    expect(refusal(() => run(later, { type: 'recut', clipIds: [MUSIC, uuid(9)], parts: parts([0, 3]) })).rule).toBe(
      'kind',
    )
    const pair = placePair(d.project, d.picture1.id, d.voice.id, 40, 0, 30)
    expect(refusal(() => run(pair.project, { type: 'recut', clipIds: [pair.p], parts: parts([0, 1]) })).rule).toBe(
      'kind',
    )
  })
})
