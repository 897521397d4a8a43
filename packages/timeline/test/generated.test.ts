import { describe, expect, it } from 'vitest'
import {
  check,
  clipsOn,
  commandSchema,
  isAnimated,
  tracksOf,
  type Clip,
  type CommandInput,
  type Project,
} from '../src/index'
import { desk, f, layout, refusal, run, uuid } from './helpers'

const title = (trackId: string, start: number, length: number, rest: object = {}) =>
  ({
    kind: 'title',
    clipId: uuid(1),
    trackId,
    start: f(start),
    length: f(length),
    title: {
      text: 'Lantern night',
      style: { size: 90 },
      runs: [{ from: 0, to: 7, style: { colour: '#ff9e5e', outline: 4 } }],
      in: null,
      out: null,
      during: null,
    },
    ...rest,
  }) as const
const made = (project: Project, ...pieces: object[]) =>
  run(project, { type: 'addGenerated', mode: 'free', generated: pieces } as unknown as CommandInput)
const clipOf = <K extends Clip['kind']>(project: Project, id: string, kind: K) => {
  const clip = project.clips[id]!
  if (clip.kind !== kind) throw new Error(`A ${clip.kind}, not a ${kind}.`)
  return clip as Extract<Clip, { kind: K }>
}

describe('titles and made pictures', () => {
  it('go on whole frames of a picture track, or on a new track in front', () => {
    const d = desk()
    const project = made(d.project, title(d.picture2.id, 10, 30, { start: f(10) + 777 }))
    expect(layout(project, d.picture2.id)).toEqual([[10, 30]])
    expect(check(project)).toEqual([])
    expect(refusal(() => made(d.project, title(d.voice.id, 0, 10))).message).toContain('is for sound')
    expect(refusal(() => made(project, title(d.picture1.id, 0, 10))).rule).toBe('id')
    const front = run(d.project, {
      type: 'addGenerated',
      mode: 'free',
      newTrack: { trackId: uuid(9), reelId: d.reelId },
      generated: [title(uuid(9), 0, 10)],
    } as unknown as CommandInput)
    expect(
      tracksOf(front, d.reelId)
        .filter((track) => track.kind === 'picture')
        .at(-1),
    ).toMatchObject({ id: uuid(9), purpose: 'titles' })
  })

  it('change their words; looks of letters that are gone go with them', () => {
    const d = desk()
    const project = made(d.project, title(d.picture1.id, 0, 30))
    const next = run(project, {
      type: 'setTitle',
      clipIds: [uuid(1)],
      set: { text: 'Quay' },
      style: { size: null, glow: 12 },
    })
    const { title: now } = clipOf(next, uuid(1), 'title')
    expect(now.text).toBe('Quay')
    expect(now.runs).toEqual([{ from: 0, to: 4, style: { colour: '#ff9e5e', outline: 4 } }])
    expect(now.style).toEqual({ glow: 12 })
    const empty = run(project, { type: 'setTitle', clipIds: [uuid(1)], set: { text: '' } })
    expect(clipOf(empty, uuid(1), 'title').title.runs).toEqual([])
  })

  it('refuse what is not theirs, naming the setting', () => {
    const d = desk()
    const project = made(d.project, title(d.picture1.id, 0, 30), {
      kind: 'generator',
      generator: 'plain',
      settings: {},
      clipId: uuid(2),
      trackId: d.picture2.id,
      start: 0,
      length: f(20),
    })
    expect(refusal(() => run(project, { type: 'setTitle', clipIds: [uuid(2)], set: { text: 'x' } })).rule).toBe('kind')
    expect(refusal(() => run(project, { type: 'setGenerator', clipIds: [uuid(1)], set: {} })).rule).toBe('kind')
    expect(
      refusal(() => run(project, { type: 'setTitle', clipIds: [uuid(1)], set: {}, style: { size: -4 } })).message,
    ).toContain('size')
    const long = commandSchema.safeParse({ type: 'setTitle', clipIds: [uuid(1)], set: { text: 'x'.repeat(10_001) } })
    expect(long.error?.issues[0]?.path).toEqual(['set', 'text'])
    const next = run(project, { type: 'setGenerator', clipIds: [uuid(2)], set: { colour: '#2a2335' } })
    expect(clipOf(next, uuid(2), 'generator').settings).toEqual({ colour: '#2a2335' })
    expect(
      clipOf(run(next, { type: 'setGenerator', clipIds: [uuid(2)], set: { colour: null } }), uuid(2), 'generator')
        .settings,
    ).toEqual({})
  })

  it('take settings of their own each in one command, or none of them', () => {
    const d = desk()
    const project = made(d.project, title(d.picture1.id, 0, 30), title(d.picture1.id, 40, 30, { clipId: uuid(2) }))
    const next = run(project, {
      type: 'setEach',
      clips: [
        { clipId: uuid(1), set: { size: 40 } },
        { clipId: uuid(2), set: { size: 60, rotation: 5 } },
      ],
    })
    expect(clipsOn(next, d.picture1.id).map((clip) => clip.params)).toEqual([{ size: 40 }, { size: 60, rotation: 5 }])
    const bad = () =>
      run(project, {
        type: 'setEach',
        clips: [
          { clipId: uuid(1), set: { size: 40 } },
          { clipId: uuid(2), set: { opacity: 400 } },
        ],
      })
    expect(refusal(bad).message).toContain('opacity')
    expect(clipsOn(project, d.picture1.id)[0]!.params).toEqual({})
  })
})

describe('another frame for the reel', () => {
  const reshape = (project: Project, reelId: string, width: number, height: number) =>
    run(project, { type: 'setReel', reelId, set: { format: { ...project.reels[reelId]!.format, width, height } } })

  it('scales letters, edges, places and the bends of paths, and back again', () => {
    const d = desk()
    const path = {
      keys: [
        { at: 0, value: [-480, 270], ease: 'both', bend: [100, 40] },
        { at: f(20), value: [480, 0], ease: 'both' },
      ],
    }
    const start = made(d.project, title(d.picture1.id, 0, 30, { params: { position: path, border: 8, size: 50 } }))
    const half = reshape(start, d.reelId, 960, 540)
    const clip = clipOf(half, uuid(1), 'title')
    expect(clip.title.style.size).toBe(45)
    expect(clip.title.runs[0]!.style.outline).toBe(2)
    expect(clip.params).toMatchObject({ border: 4, size: 50 })
    const position = clip.params.position!
    expect(isAnimated(position) && position.keys.map(({ value, bend }) => [value, bend])).toEqual([
      [
        [-240, 135],
        [50, 20],
      ],
      [[240, 0], undefined],
    ])
    expect(reshape(half, d.reelId, 1920, 1080).clips).toEqual(start.clips)
  })

  it('gives a tall reel letters as large, and a size to those that had none of their own', () => {
    const d = desk()
    const start = made(
      d.project,
      title(d.picture1.id, 0, 30),
      title(d.picture2.id, 0, 30, {
        clipId: uuid(2),
        title: { text: 'Tide', style: {}, runs: [], in: null, out: null, during: null },
      }),
    )
    const tall = reshape(start, d.reelId, 1080, 1920)
    expect(clipOf(tall, uuid(1), 'title').title.style.size).toBe(90)
    expect(clipOf(tall, uuid(2), 'title').title.style.size).toBeUndefined()
    const small = reshape(start, d.reelId, 360, 640)
    expect(clipOf(small, uuid(2), 'title').title.style.size).toBe(32)
  })
})
