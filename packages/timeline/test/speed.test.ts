import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  check,
  clipEnd,
  clipSourceRange,
  clipTimeAt,
  mapTime,
  pictureTimeAt,
  planFrame,
  planSound,
  slips,
  speedAt,
  type Clip,
  type PictureLayer,
  type SpeedPoint,
  type TimeMap,
  type TransitionLayer,
} from '../src/index'
import { desk, f, layout, placePair, run, uuid } from './helpers'

/** A pair of picture and sound of 60 frames that begins at frame 30 of the reel and frame 15 of its source. */
function pair() {
  const d = desk()
  const { project } = placePair(d.project, d.picture1.id, d.voice.id, 1, 30, 60, 15)
  return { ...d, project, picture: uuid(1), sound: uuid(2) }
}
const near = (a: number, b: number, hair = 2) => expect(Math.abs(a - b)).toBeLessThanOrEqual(hair)

describe('maps of time', () => {
  const points = fc.uniqueArray(fc.integer({ min: -1e10, max: 5e10 }), { minLength: 1, maxLength: 6 }).chain((times) =>
    fc.tuple(
      ...times
        .sort((a, b) => a - b)
        .map((at) =>
          fc.record({
            at: fc.constant(at),
            speed: fc.double({ min: 0.05, max: 20, noNaN: true }),
            ease: fc.constantFrom('linear' as const, 'smooth' as const, 'hold' as const),
          }),
        ),
    ),
  )

  it('are what the speed adds up to, whatever the curve', () => {
    fc.assert(
      fc.property(points, fc.boolean(), (list, backwards) => {
        const map: TimeMap = { kind: 'ramp', source: 1e9, backwards, points: list as SpeedPoint[] }
        const [from, to] = [-2e10, 6e10]
        const steps = 4000
        let sum = 0
        for (let i = 0; i < steps; i++)
          sum += (speedAt(map, from + ((i + 0.5) * (to - from)) / steps) * (to - from)) / steps
        const exact = mapTime(map, to) - mapTime(map, from)
        expect(Math.abs(sum - exact)).toBeLessThan(Math.abs(exact) * 0.02 + 1e8)
        expect(mapTime(map, 0)).toBe(1e9)
      }),
      { numRuns: 100 },
    )
  })

  it('are undone by their inverse', () => {
    fc.assert(
      fc.property(points, fc.boolean(), fc.integer({ min: -3e10, max: 9e10 }), (list, backwards, time) => {
        const map: TimeMap = { kind: 'ramp', source: 5, backwards, points: list as SpeedPoint[] }
        near(mapTime(map, clipTimeAt(map, mapTime(map, time))!), mapTime(map, time), 25)
      }),
      { numRuns: 300 },
    )
    expect(clipTimeAt({ kind: 'freeze', source: 4 }, 4)).toBeNull()
    expect(clipTimeAt({ kind: 'constant', source: 100, speed: -2 }, 0)).toBe(50)
  })
})

describe('speed', () => {
  it('shows the same stretch of the source in less time, with its sound, and closes up', () => {
    const d = pair()
    const before = clipSourceRange(d.project.clips[d.picture]!)
    const { project: with3 } = placePair(d.project, d.picture1.id, d.voice.id, 3, 90, 30)
    const project = run(with3, { type: 'setSpeed', clipIds: [d.picture], speed: 2 })
    expect(check(project)).toEqual([])
    expect(layout(project, d.picture1.id)).toEqual([
      [30, 30],
      [60, 30],
    ])
    expect(layout(project, d.voice.id)).toEqual(layout(project, d.picture1.id))
    const after = clipSourceRange(project.clips[d.picture]!)
    near(after.from, before.from)
    near(after.to, before.to)
    expect(slips(project).size).toBe(0)
  })

  it('comes back exactly', () => {
    const d = pair()
    let project = d.project
    for (const speed of [0.3, 4, -2, 1]) project = run(project, { type: 'setSpeed', clipIds: [d.picture], speed })
    expect(layout(project, d.picture1.id)).toEqual([[30, 60]])
    near(clipSourceRange(project.clips[d.picture]!).from, f(15), 40)
  })

  it('plays backwards from the last frame to the first', () => {
    const d = pair()
    const project = run(d.project, { type: 'setSpeed', clipIds: [d.picture], reverse: true })
    const clip = project.clips[d.picture]!
    const frames = [30, 31, 60, 89].map((frame) => Math.floor(pictureTimeAt(clip, f(frame)) / f(1)))
    expect(frames).toEqual([74, 73, 44, 15])
    const again = run(project, { type: 'setSpeed', clipIds: [d.picture], reverse: true })
    expect(again.clips[d.picture]!.map).toEqual(d.project.clips[d.picture]!.map)
  })

  it('takes a wished length, and fits without moving others where that is wanted', () => {
    const d = pair()
    const { project: crowded } = placePair(d.project, d.picture1.id, d.voice.id, 3, 100, 30)
    const project = run(crowded, { type: 'setSpeed', clipIds: [d.picture], length: f(70), room: 'keep' })
    expect(layout(project, d.picture1.id)).toEqual([
      [30, 70],
      [100, 30],
    ])
    near(clipSourceRange(project.clips[d.picture]!).to, f(75), 5)
    const slow = run(crowded, { type: 'setSpeed', clipIds: [d.picture], speed: 0.5, room: 'keep' })
    // There is no room for more, so its end is what is cut.
    expect(layout(slow, d.picture1.id)[0]).toEqual([30, 70])
  })

  it('keeps keyframes and markers on their pictures', () => {
    const d = pair()
    const keys = [0, 60].map((frame, i) => ({ at: f(frame), value: 50 + 50 * i, ease: 'linear' as const }))
    let project = run(d.project, { type: 'setParams', clipIds: [d.picture], set: { opacity: { keys } } })
    project = run(project, { type: 'setSpeed', clipIds: [d.picture], speed: 2 })
    const opacity = project.clips[d.picture]!.params.opacity as { keys: { at: number }[] }
    expect(opacity.keys.map((key) => key.at)).toEqual([0, f(30)])
  })

  it('goes along a curve: its length is what the curve makes of the same footage', () => {
    const d = pair()
    const points: SpeedPoint[] = [
      { at: 0, speed: 1, ease: 'linear' },
      { at: f(20), speed: 3, ease: 'linear' },
    ]
    const project = run(d.project, { type: 'setSpeedCurve', clipId: d.picture, points })
    expect(check(project)).toEqual([])
    // Forty frames of footage in the first twenty, the last twenty at three times the speed.
    expect(layout(project, d.picture1.id)).toEqual([[30, 27]])
    expect(slips(project).size).toBe(0)
    const cut = run(project, { type: 'split', reelId: d.reelId, at: f(45), clipIds: [d.picture] })
    expect(layout(cut, d.picture1.id)).toEqual([
      [30, 15],
      [45, 12],
    ])
    for (const frame of [30, 44, 45, 56]) {
      const [whole, part] = [project, cut].map((p) =>
        pictureTimeAt(
          Object.values(p.clips).find((c) => c.stream === null && c.start <= f(frame) && clipEnd(c) > f(frame))!,
          f(frame),
        ),
      )
      expect(part).toBe(whole)
    }
    const straight = run(project, { type: 'setSpeedCurve', clipId: d.picture, points: [] })
    near(clipSourceRange(straight.clips[d.picture]!).to, f(75), f(1))
  })

  it('trims to what the source holds at its speed', () => {
    const d = pair()
    const project = run(d.project, { type: 'setSpeed', clipIds: [d.picture], speed: 0.5 })
    const trimmed = run(project, { type: 'trim', clipId: d.picture, edge: 'start', to: f(0) })
    expect(clipSourceRange(trimmed.clips[d.picture]!).from).toBe(0)
    expect(() => run(project, { type: 'trim', clipId: d.picture, edge: 'end', to: f(100_000) })).toThrow()
  })

  it('refuses what is no speed, in words', () => {
    const d = pair()
    const set = (more: object) => () => run(d.project, { type: 'setSpeed', clipIds: [d.picture], ...more } as never)
    expect(set({ speed: 0 })).toThrow()
    expect(set({ speed: Number.NaN })).toThrow()
    expect(set({ speed: 101 })).toThrow()
    expect(set({})).toThrow('No speed')
    expect(set({ length: f(6000) })).toThrow('between 0.05 and 100')
    const twice = [0, 0].map((at) => ({ at, speed: 1, ease: 'linear' as const }))
    expect(() => run(d.project, { type: 'setSpeedCurve', clipId: d.picture, points: twice })).toThrow('same time')
  })

  it('is heard with its pitch kept, silent beyond what can be listened to, or as is wanted', () => {
    const d = pair()
    const heard = (speed: number, params = {}) => {
      let project = run(d.project, { type: 'setSpeed', clipIds: [d.picture], speed })
      project = run(project, { type: 'setParams', clipIds: [d.sound], set: params })
      return planSound(project, d.reelId, 0, f(3000)).pieces[0]?.time
    }
    expect(heard(2)).toMatchObject({ pitch: 'keep', engine: 'speech', map: { speed: 2 } })
    expect(heard(2, { pitchMode: 'follow', stretcher: 'music' })).toMatchObject({ pitch: 'follow', engine: 'music' })
    expect(heard(2, { pitchMode: 'silent' })).toBeUndefined()
    expect(heard(5)).toBeUndefined()
    expect(heard(5, { anySpeed: true })).toMatchObject({ pitch: 'keep' })
  })
})

describe('effects', () => {
  const add = (d: ReturnType<typeof pair>, owner: 'clip' | 'track' | 'reel', id: string, kind = 'echo') =>
    run(d.project, {
      type: 'addEffects',
      owner,
      ownerIds: [id],
      effects: [{ domain: 'sound', kind, settings: {}, strength: 100 }],
    })
  const of = (project: { effects: object }, id: string) =>
    Object.values(project.effects as Record<string, { ownerId: string; kind: string; order: string; id: string }>)
      .filter((effect) => effect.ownerId === id)
      .sort((a, b) => (a.order < b.order ? -1 : 1))

  it('go with their clip: into both halves, into copies, away with it', () => {
    const d = pair()
    const project = add(d, 'clip', d.sound)
    const cut = run(project, { type: 'split', reelId: d.reelId, at: f(50), clipIds: [d.picture] })
    const sounds = Object.values(cut.clips).filter((clip: Clip) => clip.stream !== null)
    expect(sounds.map((clip) => of(cut, clip.id).length)).toEqual([1, 1])
    const twice = run(project, { type: 'duplicate', clipIds: [d.picture] })
    expect(Object.keys(twice.effects)).toHaveLength(2)
    const gone = run(project, { type: 'remove', clipIds: [d.picture], closeUp: false })
    expect(gone.effects).toEqual({})
    expect(check(cut)).toEqual([])
  })

  it('stand in an order that can be changed, and are heard in it', () => {
    const d = pair()
    const one = { ...d, project: add(d, 'track', d.voice.id, 'echo') }
    const two = add(one, 'track', d.voice.id, 'reverb')
    const [first, second] = of(two, d.voice.id)
    const turned = run(two, { type: 'moveEffect', effectId: second!.id, after: null })
    expect(of(turned, d.voice.id).map(({ kind }) => kind)).toEqual(['reverb', 'echo'])
    const plan = (p: typeof two) => planSound(p, d.reelId, 0, f(60)).tracks[0]!.effects?.map(({ kind }) => kind)
    expect(plan(turned)).toEqual(['reverb', 'echo'])
    const off = run(turned, { type: 'setEffects', effectIds: [first!.id], set: { on: false } })
    expect(plan(off)).toEqual(['reverb'])
  })

  it('are refused where they have nothing to act on, and beyond forty', () => {
    const d = pair()
    expect(() => add(d, 'clip', d.picture)).toThrow('Sound effects go on sounds')
    expect(() => add(d, 'clip', uuid(999))).toThrow('no longer there')
    let project = d.project
    for (let i = 0; i < 40; i++) project = add({ ...d, project }, 'reel', d.reelId)
    expect(() => add({ ...d, project }, 'reel', d.reelId)).toThrow('at most 40')
  })
})

describe('slowed pictures', () => {
  it('repeat frames, or blend the two that lie on both sides', () => {
    const d = pair()
    const slow = run(d.project, { type: 'setSpeed', clipIds: [d.picture], speed: 0.25 })
    const size = { width: 1920, height: 1080 }
    const layer = (project: typeof slow, frame: number) => planFrame(project, d.reelId, f(frame), size).layers[0]!
    expect(layer(slow, 33).kind).toBe('picture')
    const blended = run(slow, { type: 'setParams', clipIds: [d.picture], set: { slowMotion: 'blend' } })
    const mix = layer(blended, 33) as TransitionLayer
    expect(mix).toMatchObject({ kind: 'transition', transition: 'dissolve', progress: 0.75 })
    const times = [mix.from, mix.to].map((side) => Math.floor((side as PictureLayer).time / f(1)))
    expect(times).toEqual([15, 16])
    // On a frame there is nothing to mix.
    expect(layer(blended, 34).kind).toBe('picture')
  })
})
