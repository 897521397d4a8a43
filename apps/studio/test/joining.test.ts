import { describe, expect, it } from 'vitest'
import {
  applyCommand,
  clipsOn,
  commandSchema,
  createProject,
  frameToTicks,
  secondsToTicks,
  tracksOf,
  type Animated,
  type Asset,
  type CommandInput,
  type Point,
  type Project,
} from '@dusk/timeline'
import { animatedParams, rangeOf } from '~/features/keyframes/keyframes'
import { fitOwn, plainTitle, planGenerated, sampleOf } from '~/features/titles/generated'
import { STICKERS } from '~/features/titles/stickers'
import {
  cutsOn,
  meantCuts,
  meantTransitions,
  missingWords,
  nearestCut,
  transitionFor,
} from '~/features/transitions/cuts'
import { boundsOf, covers, guideLines, outlineOf, outlinesAt, stickTo } from '~/features/timeline/outlines'

const RATE = { num: 30, den: 1 }
const f = (frame: number) => frameToTicks(frame, RATE)
const ID = (n: number) => `00000000-0000-4000-8000-${n.toString(16).padStart(12, '0')}`
const HARBOUR: Asset = {
  id: ID(0xa1),
  name: 'harbour.mp4',
  kind: 'video',
  length: secondsToTicks(20),
  picture: { width: 1920, height: 1080, rate: RATE, variable: false, alpha: false },
  sounds: [{ channels: 2, length: secondsToTicks(20), title: '' }],
  folderId: null,
  label: null,
  note: '',
}

let seed = 0x900000
const run = (project: Project, input: CommandInput) =>
  applyCommand(project, commandSchema.parse(input), ID((seed += 64))).project

/** Three shots: two that touch, with their sound linked, and one after a gap. */
function desk() {
  let n = 1
  const empty = createProject('Night', { width: 1920, height: 1080, rate: RATE }, () => ID(n++))
  const reelId = Object.keys(empty.reels)[0]!
  const [picture, front, voice] = tracksOf(empty, reelId)
  const start = { ...empty, assets: { [HARBOUR.id]: HARBOUR } }
  const piece = (id: number, trackId: string, stream: number | null, at: number, link: number | null) => ({
    clipId: ID(id),
    trackId,
    assetId: HARBOUR.id,
    stream,
    start: f(at),
    length: f(60),
    source: f(60),
    link: link ? ID(link) : null,
  })
  const pieces = [
    piece(101, picture!.id, null, 0, 901),
    piece(102, picture!.id, null, 60, 902),
    piece(103, picture!.id, null, 150, null),
    piece(111, voice!.id, 0, 0, 901),
    piece(112, voice!.id, 0, 60, 902),
  ]
  return {
    project: run(start, { type: 'place', mode: 'free', pieces }),
    reelId,
    picture: picture!,
    front: front!,
    voice: voice!,
  }
}

describe('cuts that a transition can go on', () => {
  it('are those between clips that touch, and the free ends of the others', () => {
    const { project, picture } = desk()
    expect(
      cutsOn(project, picture.id).map((cut) => [cut.left?.id ?? null, cut.right?.id ?? null, cut.at / f(1)]),
    ).toEqual([
      [null, ID(101), 0],
      [ID(101), ID(102), 60],
      [ID(102), null, 120],
      [null, ID(103), 150],
      [ID(103), null, 210],
    ])
    expect(nearestCut(project, picture.id, f(70))?.at).toBe(f(60))
    expect(nearestCut(project, picture.id, f(90), f(5))).toBeNull()
  })

  it('are found for the key: the selected ones, else the nearest with its sound', () => {
    const { project, reelId } = desk()
    const ids = (selection: string[], at: number) =>
      meantCuts(project, reelId, new Set(selection), f(at)).map((cut) => [cut.left?.id, cut.right?.id])
    expect(ids([], 200)).toEqual([
      [ID(101), ID(102)],
      [ID(111), ID(112)],
    ])
    expect(ids([ID(101), ID(102)], 0)).toEqual([[ID(101), ID(102)]])
    expect(ids([ID(103)], 205)).toEqual([[ID(103), undefined]])
    expect(ids([ID(103)], 151)).toEqual([[undefined, ID(103)]])
  })

  it('come before transitions selected elsewhere, once the playhead is on one or nothing else is to do', () => {
    const { project, reelId } = desk()
    const near = meantCuts(project, reelId, new Set(), f(60))
    const there = { ...transitionFor(near[0]!, 'wipe', f(20), false), trackId: 'one' }
    const elsewhere = { ...there, leftId: ID(102), rightId: ID(103) }
    const meant = (chosen: (typeof there)[], stands: boolean, kind: string) =>
      meantTransitions(chosen, near, stands, (entry) => entry.kind === kind)
    expect(meant([elsewhere], true, 'dissolve')).toEqual([])
    expect(meant([elsewhere], false, 'wipe')).toEqual([])
    // A key away from any cut is about what is selected, and on its own cut too.
    expect(meant([elsewhere], false, 'dissolve')).toEqual([elsewhere])
    expect(meant([there], true, 'wipe')).toEqual([there])
    expect(meant([elsewhere, there], true, 'dissolve')).toEqual([elsewhere, there])
    expect(meantTransitions([elsewhere], [], true, () => true)).toEqual([elsewhere])
  })

  it('get a transition that lies on both sides, or inside the only clip', () => {
    const { project, picture } = desk()
    const [begin, middle] = cutsOn(project, picture.id)
    expect(transitionFor(middle!, 'wipe', f(20), false)).toMatchObject({ before: f(10), after: f(10), kind: 'wipe' })
    expect(transitionFor(begin!, 'wipe', f(20), true)).toMatchObject({
      before: 0,
      after: f(20),
      kind: 'equalPower',
      leftId: null,
    })
    const seconds = (ticks: number) => `${(ticks / f(30)).toFixed(2)} s`
    expect(missingWords(f(30), f(30), seconds)).toBeNull()
    expect(missingWords(f(30), f(15), seconds)).toContain('0.50 s')
    expect(missingWords(f(30), 0, seconds)).toContain('held')
  })
})

describe('what is made', () => {
  it('goes on the track it is dropped on when there is room, else on a new one in front', () => {
    const { project, reelId, picture, front } = desk()
    const made = plainTitle(project.reels[reelId]!.format)
    const dropped = planGenerated(project, reelId, made, f(125), f(20), picture.id)
    expect([dropped.trackId, dropped.command.newTrack]).toEqual([picture.id, undefined])
    const crowded = planGenerated(project, reelId, made, f(30), f(20), picture.id)
    expect(crowded.command.newTrack?.trackId).toBe(crowded.trackId)
    // Without a wish an empty track in front is taken.
    expect(planGenerated(project, reelId, made, f(30), f(20)).trackId).toBe(front.id)
    const next = run(project, crowded.command)
    expect(
      tracksOf(next, reelId)
        .filter((track) => track.kind === 'picture')
        .at(-1)!.purpose,
    ).toBe('titles')
    expect(clipsOn(next, crowded.trackId)).toHaveLength(1)
  })

  it('keeps its proportions in a reel of another size', () => {
    const own = {
      id: ID(5),
      name: 'Mine',
      title: (plainTitle({ width: 1920, height: 1080 }) as { title: never }).title,
      params: { position: [960, 540] as [number, number] },
      format: { width: 1920, height: 1080 },
    }
    const small = fitOwn(own, { width: 960, height: 540 }) as { title: { style: { size: number } }; params: object }
    expect(small.title.style.size).toBe(54)
    expect(small.params).toEqual({ position: [480, 270] })
    const { project, reelId } = sampleOf(plainTitle({ width: 640, height: 360 }), { width: 640, height: 360 }, f(60))
    expect(outlinesAt(project, reelId, f(10), new Map())).toHaveLength(1)
  })

  it('has stickers enough, each named once', () => {
    const all = STICKERS.flatMap((group) => group.emoji)
    expect(all.length).toBeGreaterThanOrEqual(60)
    expect(new Set(all.map(([emoji]) => emoji)).size).toBe(all.length)
  })
})

describe('outlines on the picture', () => {
  const placed = (set: Record<string, Animated>) => {
    const d = desk()
    const project = run(d.project, { type: 'setParams', clipIds: [ID(101)], set: set as never })
    return outlineOf(project, project.clips[ID(101)]!, f(10), new Map())!
  }

  it('follow place, size, turn and crop', () => {
    expect(boundsOf(placed({}))).toEqual({ left: 0, right: 1920, top: 0, bottom: 1080 })
    expect(boundsOf(placed({ size: 50, position: [100, 0] }))).toEqual({
      left: 580,
      right: 1540,
      top: 270,
      bottom: 810,
    })
    const turned = boundsOf(placed({ size: 50, rotation: 90 }))
    expect([turned.left, turned.right].map(Math.round)).toEqual([690, 1230])
    expect(boundsOf(placed({ cropLeft: 25 })).left).toBe(480)
    expect(placed({ anchor: [0, 0] }).anchor).toEqual([0, 0])
  })

  it('are hit where the picture is and nowhere else', () => {
    const outline = placed({ size: 50, rotation: 45 })
    expect([covers(outline, 960, 540), covers(outline, 590, 800)]).toEqual([true, false])
  })

  it('stick to the nearest line of the frame or of another layer', () => {
    const lines = guideLines({ width: 1920, height: 1080 }, [placed({ size: 50 })])
    expect(stickTo([955], lines, 'x', 10)).toMatchObject({ by: 5, line: { at: 960 } })
    expect(stickTo([484], lines, 'x', 10)).toMatchObject({ by: -4 })
    expect(stickTo([300], lines, 'x', 10)).toBeNull()
    expect(stickTo([812], lines, 'y', 10)).toMatchObject({ by: -2 })
  })
})

describe('keyframes shown under the timeline', () => {
  it('are those of the clip, with the room their course takes', () => {
    const d = desk()
    const keys = [
      { at: 0, value: 100, ease: [0.3, 1.9, 0.6, 1] as [number, number, number, number] },
      { at: f(30), value: 200, ease: 'both' as const },
    ]
    const position = { keys: [{ at: 0, value: [0, 0] as Point, ease: 'both' as const }] }
    const project = run(d.project, {
      type: 'setParams',
      clipIds: [ID(101)],
      set: { size: { keys }, position: position as never, opacity: 40 },
    })
    const rows = animatedParams(project.clips[ID(101)]!)
    expect(rows.map((row) => row.param.key)).toEqual(['position', 'size'])
    const [low, high] = rangeOf(rows[1]!.value, 0, f(60))
    expect(low).toBe(100)
    // The curve overshoots, and the graph leaves room for it.
    expect(high).toBeGreaterThan(205)
    expect(rangeOf({ keys: [{ at: 0, value: 5, ease: 'both' }] }, 0, 10)).toEqual([4, 6])
  })
})
