import { describe, expect, it } from 'vitest'
import {
  applyCommand,
  check,
  clipEnd,
  clipsOn,
  commandSchema,
  createProject,
  isAnimated,
  LAYOUTS,
  secondsToTicks,
  TICKS_PER_SECOND,
  tracksOf,
  type Animated,
  type Asset,
  type Clip,
  type CommandInput,
  type Point,
  type Project,
} from '@dusk/timeline'
import { pipsAreOff, pipsOf, planPips } from '~/features/titles/pips'
import { isCell, panned, planIntoCell, planSplit } from '~/features/viewer/cells'
import { boundsOf, outlineOf } from '~/features/timeline/outlines'

const ID = (n: number) => `00000000-0000-4000-8000-${n.toString(16).padStart(12, '0')}`
const UNFILED = { folderId: null, label: null, note: '' }
const rate = { num: 30, den: 1 }
const wide: Asset = {
  id: ID(0xa1),
  name: 'harbour.mp4',
  kind: 'video',
  length: secondsToTicks(20),
  picture: { width: 1920, height: 1080, rate, variable: false, alpha: false },
  sounds: [],
  ...UNFILED,
}
const tall: Asset = {
  id: ID(0xa2),
  name: 'boat.jpg',
  kind: 'still',
  length: 0,
  picture: { width: 900, height: 1600, rate: null, variable: false, alpha: false },
  sounds: [],
  ...UNFILED,
}
const pips: Asset = {
  id: ID(0xa3),
  name: 'second-pips.wav',
  kind: 'sound',
  length: secondsToTicks(30),
  picture: null,
  sounds: [{ channels: 2, length: secondsToTicks(30), title: '' }],
  ...UNFILED,
}

let seed = 0x100000
const run = (project: Project, input: CommandInput) =>
  applyCommand(project, commandSchema.parse(input), ID((seed += 64))).project
const only = (project: Project, trackId: string) => clipsOn(project, trackId)[0]!

function desk() {
  let n = 1
  const empty = createProject('Night', { width: 1920, height: 1080, rate }, () => ID(n++))
  const reelId = Object.keys(empty.reels)[0]!
  const back = tracksOf(empty, reelId)[0]!
  const start = { ...empty, assets: { [wide.id]: wide, [tall.id]: tall, [pips.id]: pips } }
  const project = run(start, {
    type: 'place',
    mode: 'free',
    pieces: [
      {
        clipId: ID(0x500),
        trackId: back.id,
        assetId: wide.id,
        stream: null,
        start: secondsToTicks(2),
        length: secondsToTicks(6),
        source: 0,
        link: null,
      },
    ],
  })
  return { project, reelId, back }
}
const box = (project: Project, clip: Clip) => {
  const { left, right, top, bottom } = boundsOf(outlineOf(project, clip, clipEnd(clip) - 1, new Map())!)
  return [left, top, right, bottom].map((value) => Math.round(value * 10) / 10)
}
const LOOK = { gap: 20, cornerRadius: 12, border: 4, comes: false }
const squares = LAYOUTS.find(({ id }) => id === 'fourSquares')!

describe('split screens', () => {
  it('fill cells that have no picture yet with ground to drop footage on, as long as the pictures', () => {
    const { project, reelId, back } = desk()
    let next = project
    for (const command of planSplit(project, reelId, [only(project, back.id)], squares.cells, LOOK))
      next = run(next, command)
    expect(check(next)).toEqual([])
    const front = tracksOf(next, reelId)
      .filter((track) => track.kind === 'picture')
      .slice(-3)
    expect(front.map((track) => only(next, track.id).kind)).toEqual(['generator', 'generator', 'generator'])
    expect(front.map((track) => box(next, only(next, track.id)))).toEqual([
      [970, 10, 1910, 530],
      [10, 550, 950, 1070],
      [970, 550, 1910, 1070],
    ])
    expect(box(next, only(next, back.id))).toEqual([10, 10, 950, 530])
    for (const track of [back, ...front])
      expect(only(next, track.id)).toMatchObject({
        start: secondsToTicks(2),
        length: secondsToTicks(6),
        params: { cornerRadius: 12, border: 4 },
      })
  })

  it('take footage of any shape into a cell, in the same place with the same border', () => {
    const { project, reelId, back } = desk()
    let next = project
    for (const command of planSplit(project, reelId, [only(project, back.id)], squares.cells, { ...LOOK, comes: true }))
      next = run(next, command)
    const front = tracksOf(next, reelId)
      .filter((track) => track.kind === 'picture')
      .at(-1)!
    const cell = only(next, front.id)
    expect(isCell(cell)).toBe(true)
    const plan = planIntoCell(next, cell, tall)
    if (typeof plan === 'string') throw new Error(plan)
    const filled = run(next, plan)
    expect(check(filled)).toEqual([])
    const clip = only(filled, front.id)
    expect(clip).toMatchObject({
      kind: 'media',
      assetId: tall.id,
      start: cell.start,
      length: cell.length,
      params: { cornerRadius: 12, border: 4 },
    })
    expect(box(filled, clip)).toEqual([970, 550, 1910, 1070])
    // It comes in as the empty cell did: from beyond the same edge.
    const position = clip.params.position as Animated<Point>
    expect(isAnimated(position) && position.keys[0]!.value[0]).toBeGreaterThan(1400)
  })

  it('take as much of a short source as there is, and refuse sound and locked tracks in words', () => {
    const { project, back } = desk()
    const clip = only(project, back.id)
    expect(isCell(clip)).toBe(false)
    const plan = planIntoCell(project, clip, wide, secondsToTicks(18))
    if (typeof plan === 'string') throw new Error(plan)
    const parts = clipsOn(run(project, plan), back.id)
    expect(parts.map((part) => part.length / TICKS_PER_SECOND)).toEqual([2, 4])
    expect(planIntoCell(project, clip, pips)).toContain('has no picture')
    const locked = run(project, { type: 'setTrack', trackId: back.id, set: { locked: true } })
    expect(planIntoCell(locked, only(locked, back.id), tall)).toContain('is locked')
  })
})

describe('the tone of a countdown', () => {
  const counted = (seconds: number, from: number) => {
    const { project, reelId } = desk()
    const front = tracksOf(project, reelId)
      .filter((track) => track.kind === 'picture')
      .at(-1)!
    const made = run(project, {
      type: 'addGenerated',
      mode: 'free',
      generated: [
        {
          kind: 'generator',
          generator: 'countdown',
          settings: {},
          clipId: ID(0x700),
          trackId: front.id,
          start: secondsToTicks(3),
          length: secondsToTicks(seconds),
        },
      ],
    } as CommandInput)
    const plan = planPips(made, made.clips[ID(0x700)]!, pips, from)
    if (typeof plan === 'string') throw new Error(plan)
    const next = plan.reduce(run, made)
    expect(check(next)).toEqual([])
    const end = 3 + seconds
    const pieces = Object.values(next.clips)
      .filter((clip) => clip.kind === 'media' && clip.assetId === pips.id)
      .sort((a, b) => a.start - b.start)
    // Moments at which a tone is heard: each whole second of the sound.
    const heard = pieces.flatMap((clip) => {
      if (clip.map.kind !== 'constant') return []
      const [source, start, length] = [
        clip.map.source / TICKS_PER_SECOND,
        clip.start / TICKS_PER_SECOND,
        clip.length / TICKS_PER_SECOND,
      ]
      return Array.from({ length: 31 }, (_, s) => s)
        .filter((s) => s >= source - 1e-6 && s < source + length - 1e-6)
        .map((s) => start + s - source)
    })
    return heard.map((time) => Math.round((end - time) * 1000) / 1000)
  }

  it('falls on every second before the end, also of clips of odd length and longer than the sound', () => {
    expect(counted(5, 10)).toEqual([5, 4, 3, 2, 1])
    expect(counted(4.6, 10)).toEqual([4, 3, 2, 1])
    expect(counted(9, 3)).toEqual([3, 2, 1])
    expect(counted(64.5, 99)).toEqual(Array.from({ length: 64 }, (_, i) => 64 - i))
  })

  it('goes with its countdown, is there once, and is laid anew after a trim of the end', () => {
    const { project, reelId } = desk()
    const front = tracksOf(project, reelId)
      .filter((track) => track.kind === 'picture')
      .at(-1)!
    let made = run(project, {
      type: 'addGenerated',
      mode: 'free',
      generated: [
        {
          ...{ kind: 'generator', generator: 'countdown', settings: {}, clipId: ID(0x700), trackId: front.id },
          ...{ start: secondsToTicks(3), length: secondsToTicks(5) },
        },
      ],
    } as CommandInput)
    const lay = () => {
      const plan = planPips(made, made.clips[ID(0x700)]!, pips, 10)
      if (typeof plan === 'string') throw new Error(plan)
      made = plan.reduce(run, made)
    }
    const tones = () => pipsOf(made, made.clips[ID(0x700)]!)
    lay()
    expect(tones()).toHaveLength(1)
    made = run(made, { type: 'move', clipIds: [ID(0x700)], by: secondsToTicks(1), mode: 'free', linked: true })
    expect(tones()[0]!.start).toBe(secondsToTicks(4))
    expect(pipsAreOff(made, made.clips[ID(0x700)]!)).toBe(false)
    made = run(made, { type: 'trim', clipId: ID(0x700), edge: 'end', to: secondsToTicks(8.4), linked: true })
    expect(clipEnd(tones()[0]!)).toBe(secondsToTicks(8.4))
    expect(pipsAreOff(made, made.clips[ID(0x700)]!)).toBe(true)
    lay()
    expect(tones()).toHaveLength(1)
    expect(pipsAreOff(made, made.clips[ID(0x700)]!)).toBe(false)
  })

  it('says so when every sound track is taken or locked', () => {
    let { project } = desk()
    const { back } = desk()
    for (const track of Object.values(project.tracks))
      if (track.kind === 'sound') project = run(project, { type: 'setTrack', trackId: track.id, set: { locked: true } })
    expect(planPips(project, only(project, back.id), pips, 5)).toContain('no sound track with room')
  })
})

describe('a picture that pans in its cell', () => {
  /** Two halves side by side, the left one a wide picture; where its visible part and the whole of it lie. */
  function halves(comes: boolean) {
    const { project, reelId } = desk()
    const clips = Object.values(project.clips).slice(0, 1)
    const { cells } = LAYOUTS.find(({ id }) => id === 'sideBySide')!
    const look = { gap: 0, cornerRadius: 0, border: 0, comes }
    const laid = planSplit(project, reelId, clips, cells, look).reduce(run, project)
    return { project: laid, clip: laid.clips[clips[0]!.id]! }
  }
  const seen = (project: Project, clip: Clip) => {
    const { left, right, top, bottom } = boundsOf(outlineOf(project, clip, clipEnd(clip) - 1, new Map())!)
    return [left, right, top, bottom].map((value) => Math.round(value) + 0)
  }
  const pan = (project: Project, clip: Clip, by: Point) => {
    const set = panned(project, clip, by)
    return run(project, { type: 'setParams', clipIds: [clip.id], set: set as never })
  }

  it.each([false, true])('shows another part in the same place, also where it comes in: %s', (comes) => {
    const { project, clip } = halves(comes)
    const before = seen(project, clip)
    expect(before).toEqual([0, 960, 0, 1080])
    const next = pan(project, clip, [200, 0]).clips[clip.id]!
    expect(seen(project, next)).toEqual(before)
    // Two hundred pixels of a picture that is 1920 wide at full size.
    expect((clip.params.cropLeft as number) - (next.params.cropLeft as number)).toBeCloseTo((200 / 1920) * 100, 2)
    expect(isAnimated(next.params.position as Animated)).toBe(comes)
  })

  it('stops at its own edges', () => {
    const { project, clip } = halves(false)
    const far = pan(project, clip, [5000, 300]).clips[clip.id]!
    expect(far.params.cropLeft).toBe(0)
    expect(far.params.cropRight).toBeCloseTo(50, 1)
    expect(seen(project, far)).toEqual([0, 960, 0, 1080])
  })
})
