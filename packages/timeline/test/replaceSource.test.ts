import { describe, expect, it } from 'vitest'
import {
  applyCommand,
  check,
  clipEnd,
  clipsOn,
  commandSchema,
  redoCommand,
  undoCommand,
  type Project,
} from '../src/index'
import { ASSETS, desk, f, HARBOUR, refusal, run, SONG, uuid } from './helpers'

const OTHER = uuid(0xb1)
const [PICTURE, SOUND] = [uuid(1), uuid(2)]

/** Harbour from second 2 to 8 with its sound, and another file of `frames` frames beside it in the library. */
function beside(frames: number, change: Partial<(typeof ASSETS)[0]> = {}, hair = 0) {
  const d = desk()
  const length = f(frames) + hair
  const sounds = [{ channels: 2, length, title: '' }]
  const other = { ...ASSETS[0]!, id: OTHER, name: 'harbour-again.mp4', length, sounds, ...change }
  let project = run(
    { ...d.project, assets: { ...d.project.assets, [OTHER]: other } },
    {
      type: 'place',
      mode: 'free',
      pieces: [
        {
          ...{ clipId: PICTURE, trackId: d.picture1.id, assetId: HARBOUR, stream: null, link: uuid(9) },
          ...{ start: f(30), length: f(180), source: f(60) },
        },
        {
          ...{ clipId: SOUND, trackId: d.voice.id, assetId: HARBOUR, stream: 0, link: uuid(9) },
          ...{ start: f(30), length: f(180), source: f(60) },
        },
      ],
    },
  )
  project = run(project, { type: 'setAssets', assetIds: [HARBOUR], set: { label: 'lamp', note: 'At dusk' } })
  return { ...d, project }
}
const replaced = (project: Project) => run(project, { type: 'replaceSource', assetId: HARBOUR, withId: OTHER })

describe('another file in a source’s place', () => {
  it('plays in every clip as it was, under the old name, folder, label and note', () => {
    const { project } = beside(300)
    const next = replaced(project)
    expect(next.clips[PICTURE]).toEqual({ ...project.clips[PICTURE], assetId: OTHER })
    expect(next.clips[SOUND]).toEqual({ ...project.clips[SOUND], assetId: OTHER })
    expect(next.assets[HARBOUR]).toBeUndefined()
    expect(next.assets[OTHER]).toMatchObject({ name: 'harbour-wide.mp4', label: 'lamp', note: 'At dusk' })
  })

  it('cuts off what it does not reach, down to the frame that its end cuts short', () => {
    const next = replaced(beside(200, {}, 14_700).project)
    expect(next.clips[PICTURE]!.length).toBe(f(141))
    expect(clipEnd(next.clips[SOUND]!)).toBe(f(170) + 14_700)
    expect(check(next)).toEqual([])
  })

  it('cuts the beginning of a clip that plays backwards', () => {
    const { project } = beside(200)
    const back = run(project, { type: 'setSpeed', clipIds: [PICTURE, SOUND], speed: -1 })
    const next = replaced(back)
    // Frames 239 down to 60 were shown: 199 is the last there is.
    expect(next.clips[PICTURE]).toMatchObject({ start: f(70), length: f(140), head: f(40) })
    expect(clipEnd(next.clips[PICTURE]!)).toBe(clipEnd(back.clips[PICTURE]!))
  })

  it('takes clips away that nothing is left of, and sound that it has not', () => {
    expect(replaced(beside(60).project).clips).toEqual({})
    const mute = replaced(beside(300, { sounds: [] }).project)
    expect(Object.keys(mute.clips)).toEqual([PICTURE])
    expect(mute.clips[PICTURE]!.link).toBeNull()
  })

  it('moves kept parts and takes over, those beyond its end not', () => {
    let { project } = beside(200)
    const part = (n: number, from: number, to: number) =>
      run(project, {
        type: 'addSubclip',
        subclip: { id: uuid(n), assetId: HARBOUR, name: 'Good', from: f(from), to: f(to) },
      })
    project = part(21, 20, 90)
    project = part(22, 150, 250)
    project = part(23, 210, 250)
    const next = replaced(project)
    expect(Object.values(next.subclips).map(({ assetId, from, to }) => [assetId, from, to])).toEqual([
      [OTHER, f(20), f(90)],
      [OTHER, f(150), f(200)],
    ])
  })

  it('takes a transition away with the clip it led to', () => {
    const { project, reelId, picture1 } = beside(150)
    let p = run(project, { type: 'split', reelId, clipIds: [PICTURE], at: f(120) })
    const [left, right] = clipsOn(p, picture1.id)
    const join = { id: uuid(31), kind: 'dissolve', settings: {}, leftId: left!.id, rightId: right!.id }
    const missing = 'shorten' as const
    p = run(p, { type: 'addTransitions', transitions: [{ ...join, before: f(10), after: f(10), missing }] })
    const next = replaced(p)
    expect(check(next)).toEqual([])
    // The right half began at frame 150 of the source: it is gone, and the transition with it.
    expect(clipsOn(next, picture1.id)).toHaveLength(1)
    expect(next.transitions).toEqual({})
  })

  it('is refused for another kind, for itself, and where a locked track would lose something', () => {
    const { project, picture1 } = beside(200)
    const refused = (p: Project, assetId: string, withId: string) =>
      refusal(() => run(p, { type: 'replaceSource', assetId, withId }))
    expect(refused(project, HARBOUR, SONG).message).toMatch(/is a video, night-song.wav a sound/)
    expect(refused(project, HARBOUR, HARBOUR).rule).toBe('nothing')
    const locked = (p: Project) => run(p, { type: 'setTrack', trackId: picture1.id, set: { locked: true } })
    expect(refused(locked(project), HARBOUR, OTHER).rule).toBe('locked')
    expect(replaced(locked(beside(300).project)).clips[PICTURE]).toMatchObject({ assetId: OTHER })
  })

  it('is taken back and done again', () => {
    const { project } = beside(200, { sounds: [] })
    const command = commandSchema.parse({ type: 'replaceSource', assetId: HARBOUR, withId: OTHER })
    const { project: next, patches } = applyCommand(project, command, uuid(77))
    const back = applyCommand(next, undoCommand('Put', patches), uuid(78)).project
    expect(back).toEqual(project)
    expect(applyCommand(back, redoCommand('Put', patches), uuid(79)).project).toEqual(next)
  })
})
