import { describe, expect, it } from 'vitest'
import {
  check,
  CommandRefused,
  commandSchema,
  planFrame,
  planSound,
  type CommandInput,
  type Project,
  type TransitionLayer,
} from '../src/index'
import { desk, f, HARBOUR, run, SONG, uuid } from './helpers'

const HD = { width: 1920, height: 1080 }
const [A, B, T] = [uuid(1), uuid(2), uuid(9)]

/** Two shots of harbour, 1–3 s and 5–7 s of it, side by side from 0 to 4 s. */
function cut(left = 30, right = 150) {
  const d = desk()
  const piece = (clipId: string, start: number, source: number) => ({
    clipId,
    trackId: d.picture1.id,
    assetId: HARBOUR,
    stream: null,
    start: f(start),
    length: f(60),
    source: f(source),
    link: null,
  })
  return {
    ...d,
    project: run(d.project, { type: 'place', mode: 'free', pieces: [piece(A, 0, left), piece(B, 60, right)] }),
  }
}

const add = (rest: object = {}): CommandInput => ({
  type: 'addTransitions',
  transitions: [
    {
      id: T,
      leftId: A,
      rightId: B,
      before: f(10),
      after: f(10),
      kind: 'dissolve',
      settings: {},
      missing: 'shorten',
      ...rest,
    },
  ],
})
const lengths = (project: Project) => {
  const t = project.transitions[T]
  return t ? [t.before / f(1), t.after / f(1)] : null
}

describe('transitions', () => {
  it('show footage hidden beyond the trims of both clips, halfway in the middle', () => {
    const d = cut()
    const project = run(d.project, add())
    expect(check(project)).toEqual([])
    const layerAt = (frame: number) => planFrame(project, d.reelId, f(frame), HD).layers[0] as TransitionLayer
    expect([49, 70].map((frame) => layerAt(frame).kind)).toEqual(['picture', 'picture'])
    const first = layerAt(50)
    expect([first.from, first.to].map((side) => side?.kind === 'picture' && side.time / f(1))).toEqual([80, 140])
    const last = layerAt(69)
    expect([last.from, last.to].map((side) => side?.kind === 'picture' && side.time / f(1))).toEqual([99, 159])
    expect(first.progress).toBeCloseTo(0.025, 4)
    expect(first.progress + last.progress).toBeCloseTo(1, 4)
  })

  it('are shortened to the hidden footage, held where asked, and refused when there is none', () => {
    // Harbour holds 300 frames: the left clip may run on, the right one begins at its first frame but four.
    const d = cut(30, 4)
    expect(lengths(run(d.project, add()))).toEqual([4, 16])
    const none = cut(240, 0)
    expect(() => run(none.project, add())).toThrow(CommandRefused)
    const held = run(none.project, add({ missing: 'hold' }))
    expect(lengths(held)).toEqual([10, 10])
    const layer = planFrame(held, none.reelId, f(69), HD).layers[0] as TransitionLayer
    // The left clip's last frame stands still.
    expect(layer.from?.kind === 'picture' && layer.from.time).toBe(f(300) - 1)
  })

  it('stay on their cut when an edge is rolled, and shrink with their clips', () => {
    const d = cut()
    const project = run(d.project, add())
    const rolled = run(project, { type: 'roll', leftId: A, rightId: B, to: f(50) })
    expect(lengths(rolled)).toEqual([10, 10])
    const short = run(project, { type: 'trim', clipId: B, edge: 'end', to: f(66) })
    expect(lengths(short)).toEqual([10, 6])
    expect(check(short)).toEqual([])
  })

  it('go with their clips and leave when these no longer touch', () => {
    const d = cut()
    const project = run(d.project, add())
    const together = run(project, { type: 'move', clipIds: [A, B], by: f(30), mode: 'free' })
    expect(planFrame(together, d.reelId, f(85), HD).layers[0]!.kind).toBe('transition')
    expect(lengths(run(project, { type: 'move', clipIds: [B], by: f(30), mode: 'free' }))).toBeNull()
    expect(lengths(run(project, { type: 'remove', clipIds: [B], closeUp: false }))).toBeNull()
  })

  it('stay when a clip is split, on the half that touches, and when the halves are joined again', () => {
    const d = cut()
    const split = run(run(d.project, add()), { type: 'split', reelId: d.reelId, at: f(30), clipIds: [A] })
    expect(check(split)).toEqual([])
    const right = split.transitions[T]!.leftId!
    expect(right).not.toBe(A)
    expect(split.clips[right]!.start).toBe(f(30))
    const joined = run(split, { type: 'join', leftId: A, rightId: right })
    expect(joined.transitions[T]!.leftId).toBe(A)
  })

  it('give way to a new one on the same edge, and two share the length of a short clip', () => {
    const d = cut()
    const again = run(run(d.project, add()), add({ id: uuid(8), kind: 'wipe' }))
    expect(Object.keys(again.transitions)).toEqual([uuid(8)])
    const fade = run(again, add({ id: uuid(7), leftId: null, before: 0, after: f(60), rightId: A }))
    expect(check(fade)).toEqual([])
    const total = Object.values(fade.transitions).reduce(
      (sum, t) => sum + (t.rightId === A ? t.after : 0) + (t.leftId === A ? t.before : 0),
      0,
    )
    expect(total).toBeLessThanOrEqual(f(60))
  })

  it('are copied with their clips: duplicated, pasted, nested and opened out again', () => {
    const d = cut()
    const project = run(d.project, add())
    const twice = run(project, { type: 'duplicate', clipIds: [A, B] })
    expect(check(twice)).toEqual([])
    expect(Object.values(twice.transitions).map((t) => [t.before, t.after])).toEqual([
      [f(10), f(10)],
      [f(10), f(10)],
    ])
    // Of one clip alone nothing is joined.
    expect(Object.keys(run(project, { type: 'duplicate', clipIds: [A] }).transitions)).toHaveLength(0)
    const clips = [A, B].map((id) => project.clips[id]!)
    const pasted = run(project, {
      type: 'paste',
      clips,
      transitions: Object.values(project.transitions),
      at: f(200),
      mode: 'free',
    })
    expect(check(pasted)).toEqual([])
    expect(Object.keys(pasted.transitions)).toHaveLength(2)
    const nested = run(project, { type: 'nest', clipIds: [A, B], reelId: uuid(70), name: 'Inner' })
    expect(check(nested)).toEqual([])
    expect(nested.tracks[nested.transitions[T]!.trackId]!.reelId).toBe(uuid(70))
    const shell = Object.values(nested.clips).find((clip) => clip.kind === 'reel')!
    const opened = run(nested, { type: 'unnest', clipId: shell.id })
    expect(check(opened)).toEqual([])
    expect(Object.values(opened.transitions).filter((t) => opened.tracks[t.trackId]!.reelId === d.reelId)).toHaveLength(
      1,
    )
  })

  it('let one clip come and go by itself', () => {
    const d = cut()
    const fade = run(d.project, add({ leftId: null, before: 0, after: f(12), rightId: A }))
    const layer = planFrame(fade, d.reelId, 0, HD).layers[0] as TransitionLayer
    expect([layer.from, layer.to?.kind]).toEqual([null, 'picture'])
    expect(() => run(d.project, add({ leftId: null, rightId: null }))).toThrow(CommandRefused)
  })

  it('of no length, or of a length that is no number, are refused and leave the cut as it was', () => {
    const d = cut()
    expect(() => run(d.project, add({ before: 0, after: 0 }))).toThrow(CommandRefused)
    for (const before of [Number.NaN, Infinity, -1, 1e30, null]) {
      const parsed = commandSchema.safeParse(add({ before }))
      expect(parsed.error?.issues[0]?.path, String(before)).toEqual(['transitions', 0, 'before'])
    }
    expect(Object.keys(d.project.transitions)).toEqual([])
  })

  it('are refused between clips that do not touch, and by locked tracks', () => {
    const d = cut()
    const apart = run(d.project, { type: 'move', clipIds: [B], by: f(5), mode: 'free' })
    expect(() => run(apart, add())).toThrow(/touch/)
    const locked = run(d.project, { type: 'setTrack', trackId: d.picture1.id, set: { locked: true } })
    expect(() => run(locked, add())).toThrow(/locked/)
  })
})

describe('crossfades of sound', () => {
  it('play both sounds over the cut, one going while the other comes', () => {
    const d = desk()
    const sound = Object.values(d.project.tracks).find((track) => track.kind === 'sound')!
    const piece = (clipId: string, start: number, source: number) => ({
      clipId,
      trackId: sound.id,
      assetId: SONG,
      stream: 0,
      start: f(start),
      length: f(60),
      source: f(source),
      link: null,
    })
    let project = run(d.project, { type: 'place', mode: 'free', pieces: [piece(A, 0, 30), piece(B, 60, 600)] })
    project = run(project, add({ kind: 'linear' }))
    const { pieces } = planSound(project, d.reelId, 0, f(120))
    expect(pieces.map(({ at, length, from }) => [at, length, from])).toEqual([
      [0, 70 * 1600, 30 * 1600],
      [50 * 1600, 70 * 1600, 590 * 1600],
    ])
    expect(pieces.map((p) => p.fades)).toEqual([
      [{ from: 50 * 1600, length: 20 * 1600, shape: 'linear', direction: 'out' }],
      [{ from: 0, length: 20 * 1600, shape: 'linear', direction: 'in' }],
    ])
  })
})
