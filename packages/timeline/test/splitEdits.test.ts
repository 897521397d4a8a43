import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import {
  applyCommand,
  check,
  clipEnd,
  clipsOn,
  CommandRefused,
  commandSchema,
  slips,
  type CommandInput,
  type Project,
} from '../src/index'
import { desk, f, HARBOUR, layout, placePair, run, uuid } from './helpers'

let ids = 0x50_0000

/** Shots of `lengths` frames one behind the other, with the sound of each cut rolled by `rolls` frames. */
function reel(lengths: readonly number[], rolls: readonly number[]) {
  const d = desk()
  let { project } = d
  let at = 0
  const pairs: { p: string; s: string }[] = []
  for (const length of lengths) {
    // Well inside the source, so that there is footage on both sides of every cut.
    const placed = placePair(project, d.picture1.id, d.voice.id, (ids += 8), at, length, 100)
    project = placed.project
    pairs.push(placed)
    at += length
  }
  for (let i = 1; i < pairs.length; i++) {
    const roll = rolls[i - 1] ?? 0
    if (roll === 0) continue
    const [left, right] = [pairs[i - 1]!.s, pairs[i]!.s]
    try {
      project = run(project, {
        type: 'roll',
        leftId: left,
        rightId: right,
        to: project.clips[right]!.start + f(roll),
        linked: false,
      })
    } catch (error) {
      // Two rolls may ask for more of a short shot than there is.
      if (!(error instanceof CommandRefused)) throw error
    }
  }
  return { d, project, pairs }
}

/**
 * Stretches between the first and the last clip of a track with nothing in them, though a picture shows there that has
 * something on this track.
 */
function holes(project: Project, trackId: string): number {
  const lane = clipsOn(project, trackId)
  const linked = new Set(lane.map((clip) => clip.link))
  const pictures = Object.values(project.clips).filter((clip) => clip.stream === null)
  return lane.slice(1).filter((clip, i) => {
    const [from, to] = [clipEnd(lane[i]!), clip.start]
    const shows = pictures.some((other) => other.start < to && clipEnd(other) > from && linked.has(other.link))
    return to > from && (shows || clip.stream === null)
  }).length
}

describe('split edits', () => {
  it('lose the sound that goes without its picture, whole behind where room is made or taken away', () => {
    const { d, project, pairs } = reel([50, 50, 50], [15, 0])
    const [{ p, s }] = pairs as [(typeof pairs)[number]]
    // The first shot is seen for 50 frames, and heard only after them.
    const late = run(project, { type: 'trim', clipId: s, edge: 'start', to: f(54), linked: false })
    expect(late.clips[s]!.link).not.toBeNull()
    const id = (ids += 8)
    const inserted = placePair(late, d.picture1.id, d.voice.id, id, 50, 20, 0, 'insert').project
    const cut = run(late, {
      type: 'cutOut',
      reelId: d.reelId,
      from: f(50),
      to: f(53),
      closeUp: true,
      scope: 'unlocked',
    })
    for (const [after, start] of [
      [inserted, 74],
      [cut, 51],
    ] as const) {
      expect(after.clips[s]).toMatchObject({ start: f(start), length: f(11), link: null })
      expect(after.clips[p]).toMatchObject({ start: 0, length: f(50), link: null })
      expect([...slips(after).keys()]).toEqual([])
      expect(check(after)).toEqual([])
    }
  })

  it('are taken along when the shot between is closed up: what runs on is shortened, pairs stay in sync', () => {
    const { d, project, pairs } = reel([50, 50, 50], [15, 0])
    const closed = run(project, { type: 'remove', clipIds: [pairs[1]!.p], closeUp: true })
    expect(layout(closed, d.picture1.id)).toEqual([
      [0, 50],
      [50, 50],
    ])
    // The first shot's sound ran on by 15 frames into what is gone.
    expect(layout(closed, d.voice.id)).toEqual([
      [0, 50],
      [50, 50],
    ])
    expect(slips(closed).size).toBe(0)
  })

  it('keep a sound that comes early with its picture', () => {
    const { d, project, pairs } = reel([50, 50, 50], [0, -15])
    const closed = run(project, { type: 'remove', clipIds: [pairs[1]!.p], closeUp: true })
    expect(layout(closed, d.voice.id)).toEqual([
      [0, 35],
      [35, 65],
    ])
    expect(slips(closed).size).toBe(0)
  })

  it('lose what would be heard before the start of the reel, when its first shot goes', () => {
    const { d, project, pairs } = reel([50, 50], [-15])
    const closed = run(project, { type: 'remove', clipIds: [pairs[0]!.p], closeUp: true })
    expect(layout(closed, d.picture1.id)).toEqual([[0, 50]])
    expect(layout(closed, d.voice.id)).toEqual([[0, 50]])
    expect(slips(closed).size).toBe(0)

    // The first shot is trimmed to where its sound had been cut: nothing is left of that.
    const trim: CommandInput = { type: 'trim', clipId: pairs[0]!.p, edge: 'start', to: f(35), mode: 'ripple' }
    const shorter = run(project, trim)
    expect(layout(shorter, d.picture1.id)).toEqual([
      [0, 15],
      [15, 50],
    ])
    expect(layout(shorter, d.voice.id)).toEqual([[0, 65]])
    expect(slips(shorter).size).toBe(0)
  })

  it('stay as they are through ripple trims on both sides of the cut', () => {
    for (const roll of [15, -15])
      for (const edge of ['end', 'start'] as const)
        for (const by of [-10, 10]) {
          const { d, project, pairs } = reel([50, 50, 50], [roll, 0])
          const clip = project.clips[edge === 'end' ? pairs[0]!.p : pairs[1]!.p]!
          const to = (edge === 'end' ? clipEnd(clip) : clip.start) + f(by)
          const next = run(project, { type: 'trim', clipId: clip.id, edge, to, mode: 'ripple' })
          expect(check(next)).toEqual([])
          expect(slips(next).size).toBe(0)
          expect(holes(next, d.voice.id)).toBe(0)
          const cut = clipsOn(next, d.picture1.id)[1]!.start
          expect(clipsOn(next, d.voice.id)[1]!.start - cut).toBe(f(roll))
        }
  })

  it('make way for a shot that is inserted at the cut', () => {
    for (const roll of [15, -15]) {
      const { d, project } = reel([50, 50], [roll])
      const inserted = placePair(project, d.picture1.id, d.voice.id, (ids += 8), 50, 30, 20, 'insert').project
      expect(layout(inserted, d.picture1.id)).toEqual([
        [0, 50],
        [50, 30],
        [80, 50],
      ])
      expect(slips(inserted).size).toBe(0)
      expect(holes(inserted, d.voice.id)).toBe(0)
    }
  })

  const runs = Number(process.env.DUSK_RUNS ?? 300)
  it(`never leave a pair apart or a hole, whatever is done (${runs} runs)`, () => {
    const step = fc.record({
      act: fc.constantFrom('remove', 'rippleStart', 'rippleEnd', 'insert', 'roll', 'cutOut'),
      pick: fc.nat(20),
      by: fc.integer({ min: -25, max: 25 }),
    })
    let [done, refused] = [0, 0]
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 25, max: 60 }), { minLength: 3, maxLength: 6 }),
        fc.array(fc.integer({ min: -15, max: 15 }), { minLength: 5, maxLength: 5 }),
        fc.array(step, { minLength: 1, maxLength: 8 }),
        (lengths, rolls, steps) => {
          const made = reel(lengths, rolls)
          const { d } = made
          let { project } = made
          for (const { act, pick, by } of steps) {
            const pictures = clipsOn(project, d.picture1.id)
            // Shots shorter than the split edit itself have no picture left under their sound.
            if (pictures.length < 2 || pictures.some((entry) => entry.length < f(20))) break
            const clip = pictures[pick % pictures.length]!
            const command = toCommand(project, d, act, clip, pick, by)
            if (!command) continue
            try {
              project = applyCommand(project, commandSchema.parse(command), uuid((ids += 64))).project
              done++
            } catch (error) {
              if (!(error instanceof CommandRefused)) throw error
              refused++
              continue
            }
            expect(check(project)).toEqual([])
            expect([...slips(project).keys()]).toEqual([])
            expect(holes(project, d.picture1.id)).toBe(0)
            // Parts that were cut off their pictures by an insert are by themselves from then on.
            const loose = [...clipsOn(project, d.voice.id), ...clipsOn(project, d.picture1.id)].some(
              (entry) => !entry.link,
            )
            if (loose || act === 'cutOut') break
            expect(holes(project, d.voice.id)).toBe(0)
          }
        },
      ),
      { numRuns: runs },
    )
    // Refusals are the exception: trims beyond a clip's own length, not split edits in the way.
    expect(refused).toBeLessThan(done / 2)
  })
})

function toCommand(
  project: Project,
  d: ReturnType<typeof desk>,
  act: string,
  clip: Project['clips'][string],
  pick: number,
  by: number,
): CommandInput | null {
  switch (act) {
    case 'remove':
      return { type: 'remove', clipIds: [clip.id], closeUp: true }
    case 'rippleStart':
    case 'rippleEnd': {
      if (by === 0) return null
      const edge = act === 'rippleStart' ? 'start' : 'end'
      const to = (edge === 'start' ? clip.start : clipEnd(clip)) + f(by)
      return { type: 'trim', clipId: clip.id, edge, to, mode: 'ripple' }
    }
    case 'insert': {
      const link = uuid((ids += 8))
      const base = { assetId: HARBOUR, start: clip.start, length: f(20 + pick), source: f(100), link }
      const pieces = [
        { ...base, clipId: uuid((ids += 8)), trackId: d.picture1.id, stream: null },
        { ...base, clipId: uuid((ids += 8)), trackId: d.voice.id, stream: 0 },
      ]
      return { type: 'place', mode: 'insert', pieces }
    }
    case 'cutOut':
      return {
        type: 'cutOut',
        reelId: d.reelId,
        from: clip.start + f(5),
        to: clip.start + f(5 + Math.abs(by)),
        closeUp: true,
      }
    default: {
      const sounds = clipsOn(project, d.voice.id)
      const at = 1 + (pick % Math.max(1, sounds.length - 1))
      const [left, right] = [sounds[at - 1], sounds[at]]
      if (!left || !right || clipEnd(left) !== right.start) return null
      return { type: 'roll', leftId: left.id, rightId: right.id, to: right.start + f(Math.sign(by) * 3), linked: false }
    }
  }
}
