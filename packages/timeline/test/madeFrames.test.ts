import { describe, expect, it } from 'vitest'
import { FramePlanner, madeAt, madeFactor, madeSegments, type PictureLayer, type Project } from '../src/index'
import { desk, f, HARBOUR, run, uuid } from './helpers'

const CLIP = uuid(1)
const SIZE = { width: 1920, height: 1080 }

/** Three seconds of harbour from its second 4 on, slowed to a speed, with frames to be made between its own. */
function slowed(speed: number, slowMotion: 'made' | 'blend' | 'repeat' = 'made') {
  const d = desk()
  let project = run(d.project, {
    type: 'place',
    mode: 'free',
    pieces: [
      {
        ...{ clipId: CLIP, trackId: d.picture1.id, assetId: HARBOUR, stream: null, link: null },
        ...{ start: 0, length: f(90), source: f(120) },
      },
    ],
  })
  project = run(project, { type: 'setSpeed', clipIds: [CLIP], speed })
  project = run(project, { type: 'setParams', clipIds: [CLIP], set: { slowMotion } as never })
  return { ...d, project }
}
const layersAt = (project: Project, reelId: string, frame: number, made?: (segment: number) => boolean) =>
  new FramePlanner(project, reelId, made && (({ segment }) => made(segment))).plan(f(frame), SIZE).layers

describe('frames made between those of a slowed clip', () => {
  it('are as many as every frame of the reel needs, and none where there are enough', () => {
    const factor = (speed: number) => madeFactor(slowed(speed).project, slowed(speed).project.clips[CLIP]!)
    expect([0.9, 0.5, 0.4, 0.25, 0.2, 0.05].map(factor)).toEqual([2, 2, 4, 4, 8, 8])
    expect([1, 2, -1].map(factor)).toEqual([null, null, null])
    expect(factor(-0.5)).toBe(2)
    const blended = slowed(0.5, 'blend').project
    expect(madeFactor(blended, blended.clips[CLIP]!)).toBeNull()
    // Footage whose frames come as they like has no grid to make others on.
    const { project } = slowed(0.5)
    const varying = { ...project.assets[HARBOUR]!, picture: { ...project.assets[HARBOUR]!.picture!, variable: true } }
    expect(
      madeFactor({ ...project, assets: { ...project.assets, [HARBOUR]: varying } }, project.clips[CLIP]!),
    ).toBeNull()
  })

  it('are asked for by stretches, each once, with what transitions show beyond the trims', () => {
    const { project } = slowed(0.5)
    // Source frames 120 to 210.
    const segments = (p: Project) => madeSegments(p).map(({ factor, segment }) => [factor, segment])
    expect(segments(project)).toEqual([
      [2, 1],
      [2, 2],
      [2, 3],
    ])
    const twice = run(project, { type: 'duplicate', clipIds: [CLIP], mode: 'insert' })
    expect(segments(twice)).toHaveLength(3)
    const other = Object.keys(twice.clips).find((id) => id !== CLIP)!
    const joined = run(twice, {
      type: 'addTransitions',
      transitions: [
        {
          ...{ id: uuid(7), leftId: CLIP, rightId: other, before: f(130), after: f(130) },
          ...{ kind: 'dissolve', settings: {}, missing: 'shorten' },
        },
      ],
    })
    // More than two seconds of footage before its trim are shown by the one that comes, after it by the one that goes.
    expect(
      segments(joined)
        .map(([, segment]) => segment)
        .sort(),
    ).toEqual([0, 1, 2, 3, 4])
    expect(segments({ ...project, clips: {} })).toEqual([])
  })

  it('are shown where they are there, and blended until then', () => {
    const { project, reelId } = slowed(0.25)
    // Reel frame n shows source frame 120 + n / 4.
    const made = (n: number) => (layersAt(project, reelId, n, () => true)[0] as PictureLayer).made
    expect([0, 4, 8].map(made)).toEqual([undefined, undefined, undefined])
    expect([1, 2, 3, 5].map(made)).toEqual([481, 482, 483, 485].map((index) => ({ factor: 4, index })))
    expect(madeAt(4, 481)).toEqual({ segment: 1, frame: 481 - 256 })
    const some = layersAt(project, reelId, 33, (segment) => segment === 1)[0]!
    expect(some).toMatchObject({ kind: 'transition', transition: 'dissolve', progress: 0.25 })
    expect(layersAt(project, reelId, 2)[0]).toMatchObject({ kind: 'transition', progress: 0.5 })
    expect(layersAt(project, reelId, 4)[0]).toMatchObject({ kind: 'picture' })
    expect((layersAt(slowed(1).project, reelId, 2, () => true)[0] as PictureLayer).made).toBeUndefined()
  })
})
