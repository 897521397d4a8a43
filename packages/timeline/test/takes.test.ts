import { describe, expect, it } from 'vitest'
import { check, copyProject, sourceTimeAt, type Asset, type MediaClip, type Project } from '../src/index'
import { ASSETS, desk, f, HARBOUR, refusal, run, SONG, uuid } from './helpers'

const SECOND = f(30)
const [FIRST, SECOND_TAKE, SHORT] = [uuid(0xb1), uuid(0xb2), uuid(0xb3)]
const CLIP = uuid(1)

const recording = (id: string, seconds: number): Asset => ({
  ...ASSETS[1]!,
  id,
  name: 'Voice',
  length: seconds * SECOND,
  sounds: [{ channels: 1, length: seconds * SECOND, title: '' }],
})

/** A voice recorded from second 2 on, heard from second 3 to 8. */
function recorded() {
  const d = desk()
  const assets = [recording(FIRST, 8), recording(SECOND_TAKE, 10), recording(SHORT, 4)]
  const project: Project = {
    ...d.project,
    assets: { ...d.project.assets, ...Object.fromEntries(assets.map((asset) => [asset.id, asset])) },
  }
  return {
    ...d,
    project: run(project, {
      type: 'place',
      mode: 'free',
      pieces: [
        {
          ...{ clipId: CLIP, trackId: d.voice.id, assetId: FIRST, stream: 0, link: null },
          ...{ start: 3 * SECOND, length: 5 * SECOND, source: SECOND },
        },
      ],
    }),
  }
}
const clipOf = (project: Project) => project.clips[CLIP] as MediaClip
/** The reel position of a recording's beginning. */
const beginOf = (project: Project) => clipOf(project).start - sourceTimeAt(clipOf(project), clipOf(project).start)

describe('takes', () => {
  it('lie where they were recorded, whatever was trimmed and moved between', () => {
    const d = recorded()
    expect(beginOf(d.project)).toBe(2 * SECOND)
    let p = run(d.project, { type: 'addTake', clipId: CLIP, assetId: SECOND_TAKE, at: 1 * SECOND })
    expect(clipOf(p)).toMatchObject({ assetId: SECOND_TAKE, start: 3 * SECOND, length: 5 * SECOND })
    expect(beginOf(p)).toBe(1 * SECOND)
    // Trimmed, then moved two seconds on: both recordings go along.
    p = run(p, { type: 'trim', clipId: CLIP, edge: 'start', to: 4 * SECOND })
    p = run(p, { type: 'move', clipIds: [CLIP], by: 2 * SECOND, mode: 'free' })
    p = run(p, { type: 'chooseTake', clipId: CLIP, assetId: FIRST })
    expect(beginOf(p)).toBe(4 * SECOND)
    expect(clipOf(p)).toMatchObject({ start: 6 * SECOND, length: 4 * SECOND })
    // A third one, recorded after that.
    p = run(p, { type: 'addTake', clipId: CLIP, assetId: SHORT, at: 6 * SECOND })
    expect(beginOf(p)).toBe(6 * SECOND)
    expect(clipOf(run(p, { type: 'chooseTake', clipId: CLIP, assetId: SECOND_TAKE })).map).toMatchObject({
      source: clipOf(p).map.source + 3 * SECOND,
    })
    expect(check(p)).toEqual([])
  })

  it('shorten a clip to what a shorter one holds, at either end', () => {
    const d = recorded()
    const late = run(d.project, { type: 'addTake', clipId: CLIP, assetId: SHORT, at: 5 * SECOND })
    expect(clipOf(late)).toMatchObject({ start: 5 * SECOND, length: 3 * SECOND })
    expect(sourceTimeAt(clipOf(late), 5 * SECOND)).toBe(0)
    const early = run(d.project, { type: 'addTake', clipId: CLIP, assetId: SHORT, at: 2 * SECOND })
    expect(clipOf(early)).toMatchObject({ start: 3 * SECOND, length: 3 * SECOND })
    expect(
      refusal(() => run(d.project, { type: 'addTake', clipId: CLIP, assetId: SHORT, at: 9 * SECOND })).message,
    ).toBe('Voice holds nothing of this stretch.')
  })

  it('go with their recordings, and are no choice when only one is left', () => {
    const d = recorded()
    const two = run(d.project, { type: 'addTake', clipId: CLIP, assetId: SECOND_TAKE, at: 2 * SECOND })
    expect(clipOf(two).takes).toHaveLength(2)
    const without = run(two, { type: 'removeAsset', assetId: FIRST })
    expect(clipOf(without)).toMatchObject({ assetId: SECOND_TAKE })
    expect(clipOf(without).takes).toBeUndefined()
    expect(check(without)).toEqual([])
    const off = run(two, { type: 'removeTake', clipId: CLIP, assetId: FIRST })
    expect(clipOf(off).takes).toBeUndefined()
    expect(off.assets[FIRST]).toBeDefined()
    expect(refusal(() => run(two, { type: 'removeTake', clipId: CLIP, assetId: SECOND_TAKE })).message).toContain(
      'choose another one first',
    )
    const copy = copyProject(two, 'Copy')
    expect(clipOf(copy.project).takes!.map(({ assetId }) => assetId)).toEqual(
      [FIRST, SECOND_TAKE].map((id) => copy.assets.get(id)),
    )
    expect(check(copy.project)).toEqual([])
  })

  it('are pasted without those that another project does not have', () => {
    const d = recorded()
    const two = run(d.project, { type: 'addTake', clipId: CLIP, assetId: SECOND_TAKE, at: 2 * SECOND })
    const { [FIRST]: _, ...assets } = two.assets
    const other = { ...two, assets, clips: {} }
    const pasted = run(other, { type: 'paste', clips: [clipOf(two)], at: 0 })
    const [clip] = Object.values(pasted.clips) as MediaClip[]
    expect(clip).toMatchObject({ assetId: SECOND_TAKE })
    expect(clip!.takes).toBeUndefined()
    expect(check(pasted)).toEqual([])
  })

  it('are made by recording over a stretch: what lay there stays, as another take of that stretch', () => {
    const d = recorded()
    const loud = run(d.project, { type: 'setGains', clips: [{ clipId: CLIP, gain: -7 }] })
    const over = run(loud, {
      ...{ type: 'record', clipId: uuid(9), trackId: d.voice.id, assetId: SHORT },
      ...{ start: 4 * SECOND, length: 2 * SECOND, source: SECOND },
    })
    const parts = Object.values(over.clips).sort((a, b) => a.start - b.start) as MediaClip[]
    expect(parts.map(({ start, length }) => [start / SECOND, length / SECOND])).toEqual([
      [3, 1],
      [4, 2],
      [6, 2],
    ])
    expect(parts[1]).toMatchObject({ id: uuid(9), assetId: SHORT, gain: -7 })
    const back = run(over, { type: 'chooseTake', clipId: uuid(9), assetId: FIRST })
    const middle = back.clips[uuid(9)] as MediaClip
    // What is heard is what was heard before.
    expect(sourceTimeAt(middle, 4 * SECOND)).toBe(sourceTimeAt(clipOf(loud), 4 * SECOND))
    expect(check(back)).toEqual([])
    const fresh = run(d.project, {
      ...{ type: 'record', clipId: uuid(9), trackId: d.voice.id, assetId: SHORT },
      ...{ start: 10 * SECOND, length: 60 * SECOND, source: 0 },
    })
    expect(fresh.clips[uuid(9)]).toMatchObject({ length: 4 * SECOND })
    expect((fresh.clips[uuid(9)] as MediaClip).takes).toBeUndefined()
  })

  it('are for recorded sound at its own speed', () => {
    const d = recorded()
    const fast = run(d.project, { type: 'setSpeed', clipIds: [CLIP], speed: 2 })
    expect(
      refusal(() => run(fast, { type: 'addTake', clipId: CLIP, assetId: SECOND_TAKE, at: 2 * SECOND })).message,
    ).toContain('speed was changed')
    const picture = run(d.project, {
      type: 'place',
      mode: 'free',
      pieces: [
        {
          ...{ clipId: uuid(2), trackId: d.picture1.id, assetId: HARBOUR, stream: null, link: null },
          ...{ start: 0, length: SECOND, source: 0 },
        },
      ],
    })
    expect(refusal(() => run(picture, { type: 'addTake', clipId: uuid(2), assetId: SONG, at: 0 })).rule).toBe('kind')
    const again = run(d.project, { type: 'addTake', clipId: CLIP, assetId: SECOND_TAKE, at: 2 * SECOND })
    expect(refusal(() => run(again, { type: 'chooseTake', clipId: CLIP, assetId: SECOND_TAKE })).rule).toBe('nothing')
  })
})
