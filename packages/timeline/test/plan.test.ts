import { describe, expect, it } from 'vitest'
import {
  FramePlanner,
  frameAt,
  frameStart,
  halvedLayer,
  makeFrameTable,
  multiply,
  invert,
  pictureLayers,
  planFrame,
  planSound,
  rotation,
  secondsToTicks,
  sinCosDegrees,
  tableLength,
  type CommandInput,
  type PictureLayer,
} from '../src/index'
import { CARD, desk, f, HARBOUR, placePair, run, SONG, uuid } from './helpers'

const HD = { width: 1920, height: 1080 }

describe('planFrame', () => {
  it('shows the front track over the back one, at source time', () => {
    const d = desk()
    const back = placePair(d.project, d.picture1.id, d.voice.id, 1, 0, 60, 30)
    const front = placePair(back.project, d.picture2.id, d.effects.id, 11, 30, 30, 100)
    const project = run(front.project, { type: 'setParams', clipIds: [front.p], set: { opacity: 50 } })
    const plan = planFrame(project, d.reelId, f(40), HD)
    expect(pictureLayers(plan).map((layer) => [layer.time, layer.opacity])).toEqual([
      [f(70), 1],
      [f(110), 0.5],
    ])
    expect(plan.passThrough).toBe(false)
  })

  it('hands an untouched full-size picture on, and leaves out what it hides', () => {
    const d = desk()
    const back = placePair(d.project, d.picture1.id, d.voice.id, 1, 0, 60)
    const front = placePair(back.project, d.picture2.id, d.effects.id, 11, 0, 60)
    const plan = planFrame(front.project, d.reelId, f(5), HD)
    expect(plan.layers).toHaveLength(1)
    expect(plan.passThrough).toBe(true)
    expect(planFrame(front.project, d.reelId, f(5), { width: 1280, height: 720 }).passThrough).toBe(false)
    // At half its size its planes can be brought down as they are, as long as nothing else is done to it.
    const half = { width: 960, height: 540 }
    const halved = (project: typeof front.project, size = half) => halvedLayer(planFrame(project, d.reelId, f(5), size))
    expect(halved(front.project)).toMatchObject({ kind: 'picture', time: f(5), matrix: [0.5, 0, 0, 0.5, 0, 0] })
    expect([HD, { width: 480, height: 270 }].map((size) => halved(front.project, size))).toEqual([null, null])
    for (const [param, value] of Object.entries({ opacity: 50, position: [2, 0] as [number, number], size: 101 })) {
      const changed = run(front.project, { type: 'setParams', clipIds: [front.p], set: { [param]: value } })
      expect(halved(changed), param).toBeNull()
    }
    const hidden = run(front.project, { type: 'setTrack', trackId: d.picture2.id, set: { hidden: true } })
    expect(planFrame(hidden, d.reelId, f(5), HD).layers).toHaveLength(1)
    const moved = run(front.project, { type: 'setParams', clipIds: [front.p], set: { position: [10, 0] } })
    expect(planFrame(moved, d.reelId, f(5), HD).layers).toHaveLength(2)
  })

  it('is empty in gaps and at the end of a clip', () => {
    const d = desk()
    const { project } = placePair(d.project, d.picture1.id, d.voice.id, 1, 10, 10)
    const planner = new FramePlanner(project, d.reelId)
    expect([0, 9, 10, 19, 20].map((n) => planner.plan(f(n), HD).layers.length)).toEqual([0, 0, 1, 1, 0])
  })

  it('fits another shape whole by default, fills or stretches when told, and places in reel pixels', () => {
    const d = desk()
    const place = {
      clipId: uuid(1),
      trackId: d.picture1.id,
      assetId: CARD,
      stream: null,
      start: 0,
      length: f(30),
      source: 0,
      link: null,
    }
    const project = run(d.project, { type: 'place', mode: 'free', pieces: [place] })
    const matrix = (set: object, size = HD) => {
      const command =
        'fit' in set ? { type: 'setClips', clipIds: [uuid(1)], set } : { type: 'setParams', clipIds: [uuid(1)], set }
      const next = run(project, command as CommandInput)
      return (planFrame(next, d.reelId, 0, size).layers[0] as PictureLayer).matrix.map(
        (value) => Math.round(value * 1000) / 1000,
      )
    }
    // 800 × 600 in 1920 × 1080: height decides, 1.8 times, 240 pixels of bar on each side.
    expect(matrix({})).toEqual([1.8, 0, 0, 1.8, 240, 0])
    expect(matrix({ fit: 'fill' })).toEqual([2.4, 0, 0, 2.4, 0, -180])
    expect(matrix({ fit: 'stretch' })).toEqual([2.4, 0, 0, 1.8, 0, 0])
    expect(matrix({ position: [100, -20] }, { width: 960, height: 540 })).toEqual([0.9, 0, 0, 0.9, 170, -10])
    expect(matrix({ size: 50 })).toEqual([0.9, 0, 0, 0.9, 600, 270])
    expect(matrix({ rotation: 90 })).toEqual([0, 1.8, -1.8, 0, 1500, -180])
  })
})

describe('matrix', () => {
  it('agrees with the engine’s sine and cosine', () => {
    for (let angle = -720; angle <= 720; angle += 7.3) {
      const [s, c] = sinCosDegrees(angle)
      expect(s).toBeCloseTo(Math.sin((angle * Math.PI) / 180), 11)
      expect(c).toBeCloseTo(Math.cos((angle * Math.PI) / 180), 11)
    }
    expect(sinCosDegrees(90)).toEqual([1, -0])
  })

  it('inverts', () => {
    const m = multiply([2, 0, 0, 3, 5, 7], rotation(30))
    multiply(m, invert(m)!).forEach((value, i) => expect(value).toBeCloseTo([1, 0, 0, 1, 0, 0][i]!, 10))
    expect(invert([1, 2, 2, 4, 0, 0])).toBeNull()
  })
})

describe('planSound', () => {
  it('lists pieces in samples, on their tracks', () => {
    const d = desk()
    let { project } = placePair(d.project, d.picture1.id, d.voice.id, 1, 30, 60, 15)
    project = run(project, { type: 'setTrack', trackId: d.voice.id, set: { gain: -3 } })
    project = run(project, { type: 'setClips', clipIds: [uuid(2)], set: { gain: 9 } })
    const plan = planSound(project, d.reelId, f(15), f(75))
    expect(plan).toEqual({
      length: 96_000,
      start: f(15),
      tracks: [
        { id: d.voice.id, purpose: 'voice', gain: -3 },
        { id: d.music.id, purpose: 'music', gain: 0 },
        { id: expect.any(String), purpose: 'effects', gain: 0 },
      ],
      pieces: [
        {
          ...{ assetId: HARBOUR, stream: 0, track: 0, at: 24_000, length: 96_000, from: 24_000, clock: 0, gain: 9 },
          abrupt: { start: true, end: true },
        },
      ],
      reel: { gain: 0 },
    })
  })

  it('obeys mute, solo and silence', () => {
    const d = desk()
    let { project } = placePair(d.project, d.picture1.id, d.voice.id, 1, 0, 60)
    project = run(project, {
      type: 'place',
      mode: 'free',
      pieces: [
        {
          clipId: uuid(9),
          trackId: d.music.id,
          assetId: SONG,
          stream: 0,
          start: 0,
          length: f(60),
          source: 0,
          link: null,
        },
      ],
    })
    const heard = (command: Parameters<typeof run>[1]) =>
      planSound(run(project, command), d.reelId, 0, f(60)).pieces.map((piece) => piece.assetId)
    expect(heard({ type: 'setTrack', trackId: d.voice.id, set: { muted: true } })).toEqual([SONG])
    expect(heard({ type: 'setTrack', trackId: d.voice.id, set: { solo: true } })).toEqual([HARBOUR])
    expect(heard({ type: 'setClips', clipIds: [uuid(9)], set: { gain: -96 } })).toEqual([HARBOUR])
  })
})

describe('frame tables', () => {
  it('takes starts rounded to milliseconds for the steady rate they mean', () => {
    const rate = { num: 30000, den: 1001 }
    const starts = Array.from({ length: 900 }, (_, i) => secondsToTicks(Math.round((i * 1001) / 30) / 1000))
    expect(makeFrameTable(starts, rate, null)).toEqual({ kind: 'constant', rate, count: 900 })
  })

  it('lists a variable rate and finds the frame on show', () => {
    const starts = [0, 0.04, 0.08, 0.5, 0.54].map(secondsToTicks)
    const table = makeFrameTable(starts, { num: 25, den: 1 }, secondsToTicks(0.04))
    expect(table.kind).toBe('listed')
    const shown = [-1, 0, 0.0399, 0.04, 0.3, 0.5, 9].map((s) => frameAt(table, secondsToTicks(s)))
    expect(shown).toEqual([0, 0, 0, 1, 2, 3, 4])
    expect(frameStart(table, 3)).toBe(secondsToTicks(0.5))
    expect(tableLength(table)).toBe(secondsToTicks(0.58))
  })
})
