import { describe, expect, it } from 'vitest'
import {
  check,
  CommandRefused,
  copyProject,
  curvePoints,
  curveText,
  curveThrough,
  effectsOf,
  filesNamed,
  filesOf,
  pictureLayers,
  planFrame,
  withoutEffects,
  type Effect,
  type FramePlan,
  type Mask,
  type Project,
} from '../src/index'
import { settleStray } from '../src/document/salvage'
import { desk, f, HARBOUR, placePair, run, SONG, uuid } from './helpers'

const SIZE = { width: 960, height: 540 }
const MASK: Mask = { shapes: [{ id: uuid(0x77), kind: 'ellipse', mode: 'add', settings: { size: [40, 40] } }] }
const added = (kind: string, more: Partial<Effect> = {}) => ({
  ...{ domain: 'picture' as const, kind, settings: {}, strength: 100 },
  ...more,
})
const effects = (project: Project): Effect[] => Object.values(project.effects)

function withPair() {
  const d = desk()
  const { project, p: picture, s: sound } = placePair(d.project, d.picture1.id, d.voice.id, 0x61, 0, 60)
  return { ...d, project, picture, sound }
}
const planAt = ({ project, reelId }: { project: Project; reelId: string }, frame = 10): FramePlan =>
  planFrame(project, reelId, f(frame), SIZE)

describe('effects of a source', () => {
  it('act on every piece of it, in its own time, and go with it', () => {
    const d = withPair()
    let project = run(d.project, {
      type: 'place',
      mode: 'free',
      pieces: [
        {
          clipId: uuid(0x91),
          trackId: d.picture1.id,
          assetId: HARBOUR,
          stream: null,
          start: f(90),
          length: f(30),
          source: f(120),
          link: null,
        },
      ],
    })
    project = run(project, {
      type: 'addEffects',
      owner: 'asset',
      ownerIds: [HARBOUR],
      effects: [
        added('tone', {
          settings: {
            exposure: {
              keys: [
                { at: 0, value: 0, ease: 'linear' },
                { at: f(200), value: 2, ease: 'linear' },
              ],
            },
          },
        }),
      ],
    })
    const exposure = (frame: number) =>
      effectsOf(planAt({ project, reelId: d.reelId }, frame))[0]!.stack[0]!.settings.exposure
    expect(exposure(10)).toBeCloseTo(0.1, 3)
    // The second piece shows the source from frame 120 on.
    expect(exposure(100)).toBeCloseTo(1.3, 3)
    const gone = run(project, { type: 'removeAsset', assetId: HARBOUR })
    expect(effects(gone)).toEqual([])
  })

  it('are refused where there is no picture, and on sounds', () => {
    const d = withPair()
    const add = (id: string, domain: 'picture' | 'sound') => () =>
      run(d.project, { type: 'addEffects', owner: 'asset', ownerIds: [id], effects: [added('tone', { domain })] })
    expect(add(SONG, 'picture')).toThrow('night-song.wav has no picture.')
    expect(add(HARBOUR, 'sound')).toThrow(CommandRefused)
  })

  it('follow their source into a copy of the project, and go where it is not', () => {
    const d = withPair()
    const project = run(d.project, {
      type: 'addEffects',
      owner: 'asset',
      ownerIds: [HARBOUR],
      effects: [added('tone')],
    })
    const { project: copy, assets } = copyProject(project, 'Copy')
    expect(effects(copy)[0]!.ownerId).toBe(assets.get(HARBOUR))
    expect(check(copy)).toEqual([])
    const { [HARBOUR]: _, ...rest } = project.assets
    expect(effects(settleStray({ ...project, assets: rest, clips: {} }))).toEqual([])
  })
})

describe('effects of a track', () => {
  it('are drawn on what it shows as one picture, transitions too, and keep its blend', () => {
    const d = withPair()
    let project = run(d.project, { type: 'setParams', clipIds: [d.picture], set: { blend: 'screen', size: 50 } })
    project = run(project, { type: 'addEffects', owner: 'track', ownerIds: [d.picture1.id], effects: [added('blur')] })
    const [group] = planAt({ project, reelId: d.reelId }).layers
    expect(group).toMatchObject({
      ...{ kind: 'reel', blend: 'screen', alpha: true, ...SIZE },
      plan: { background: null, layers: [{ kind: 'picture' }], effects: { stack: [{ kind: 'blur' }] } },
    })
    expect((group as { plan: FramePlan }).plan.layers[0]).not.toHaveProperty('blend', 'screen')
  })

  it('act on each clip by itself where an adjustment has no picture of its own', () => {
    const d = withPair()
    let project = run(d.project, {
      type: 'addGenerated',
      mode: 'free',
      generated: [
        { kind: 'adjustment', clipId: uuid(0x92), trackId: d.picture2.id, start: 0, length: f(60), params: {} },
      ],
    } as never)
    project = run(project, { type: 'addEffects', owner: 'track', ownerIds: [d.picture2.id], effects: [added('blur')] })
    expect(planAt({ project, reelId: d.reelId }).layers[1]).toMatchObject({
      ...{ kind: 'backdrop', effects: { stack: [{ kind: 'blur' }] } },
    })
  })
})

describe('masks', () => {
  it('are put on, moved along when the clip plays at another speed, and taken off', () => {
    const d = withPair()
    let project = run(d.project, {
      type: 'addEffects',
      owner: 'clip',
      ownerIds: [d.picture],
      effects: [added('blur', { mask: MASK })],
    })
    const [effect] = effects(project)
    expect(effectsOf(planAt({ project, reelId: d.reelId }))[0]!.stack[0]!.mask).toMatchObject([
      { kind: 'ellipse', mode: 'add', settings: { size: [40, 40], position: [50, 50], opacity: 100 } },
    ])
    const path = [0, 60].map((frame) => ({
      at: f(frame),
      ease: 'linear' as const,
      points: [1, 2, 3].map((n) => [n, n, 0, 0, 0, 0] as never),
    }))
    const pen: Mask = { shapes: [{ ...MASK.shapes[0]!, kind: 'pen', path }] }
    project = run(project, { type: 'setEffects', effectIds: [effect!.id], set: { mask: pen } })
    project = run(project, { type: 'setSpeed', clipIds: [d.picture], speed: 2 } as never)
    expect(effects(project)[0]!.mask!.shapes[0]!.path!.map(({ at }) => at)).toEqual([0, f(30)])
    project = run(project, { type: 'setEffects', effectIds: [effect!.id], set: { mask: null } })
    expect(effects(project)[0]).not.toHaveProperty('mask')
    const sound = run(d.project, {
      type: 'addEffects',
      owner: 'clip',
      ownerIds: [d.sound],
      effects: [added('gain', { domain: 'sound' })],
    })
    expect(() => run(sound, { type: 'setEffects', effectIds: [effects(sound)[0]!.id], set: { mask: MASK } })).toThrow(
      'A sound effect has no mask.',
    )
  })

  it('hold what can be drawn: numbers, a hundred points, twenty shapes', () => {
    const d = withPair()
    const add = (mask: unknown) => () =>
      run(d.project, {
        type: 'addEffects',
        owner: 'clip',
        ownerIds: [d.picture],
        effects: [added('blur', { mask: mask as never })],
      })
    const pen = (points: unknown) => ({
      shapes: [{ ...MASK.shapes[0], kind: 'pen', path: [{ at: 0, ease: 'both', points }] }],
    })
    const many = (n: number) => Array.from({ length: n }, (_, i) => [i % 50, i, 0, 0, 0, 0])
    expect(add(pen(many(100)))).not.toThrow()
    expect(add(pen(many(201)))).toThrow()
    expect(add(pen([[Number.NaN, 0, 0, 0, 0, 0], ...many(3)]))).toThrow()
    expect(add({ shapes: Array.from({ length: 21 }, () => MASK.shapes[0]) })).toThrow()
    expect(add({ shapes: [] })).toThrow()
  })
})

describe('effects that weigh frames', () => {
  it('name those around the one that is shown, as far as there are any', () => {
    const d = withPair()
    const project = run(d.project, {
      ...{ type: 'addEffects', owner: 'clip', ownerIds: [d.picture] },
      effects: [added('steadyNoise', { settings: { around: 2 } })],
    })
    const beside = (frame: number) =>
      pictureLayers(planAt({ project, reelId: d.reelId }, frame)).map(({ time }) => Math.floor(time / f(1)))
    expect(beside(10)).toEqual([10, 9, 11, 8, 12])
    expect(beside(0)).toEqual([0, 1, 2])
    // Without it being said there are two to each side; other effects bring none.
    const plain = run(d.project, {
      type: 'addEffects',
      owner: 'clip',
      ownerIds: [d.picture],
      effects: [added('steadyNoise')],
    })
    expect(pictureLayers(planAt({ project: plain, reelId: d.reelId }))).toHaveLength(5)
    expect(pictureLayers(planAt(d))).toHaveLength(1)
  })
})

describe('stacks', () => {
  it('take thirty effects on a clip, and not endlessly many', () => {
    const d = withPair()
    const thirty = Array.from({ length: 30 }, () => added('tone'))
    const project = run(d.project, { type: 'addEffects', owner: 'clip', ownerIds: [d.picture], effects: thirty })
    expect(effectsOf(planAt({ project, reelId: d.reelId }))[0]!.stack).toHaveLength(30)
    expect(() => run(project, { type: 'addEffects', owner: 'clip', ownerIds: [d.picture], effects: thirty })).toThrow(
      'at most 40 effects',
    )
  })

  it('name the files they need; a plan without effects has none', () => {
    const d = withPair()
    const file = 'ab'.repeat(32)
    const project = run(d.project, {
      type: 'addEffects',
      owner: 'clip',
      ownerIds: [d.picture],
      effects: [added('lutFile', { settings: { file } })],
    })
    expect([...filesNamed(project.effects)]).toEqual([file])
    const plan = planAt({ project, reelId: d.reelId })
    expect(filesOf(plan)).toEqual([file])
    expect(effectsOf(withoutEffects(plan))).toEqual([])
    expect(withoutEffects(plan).layers).toHaveLength(plan.layers.length)
  })
})

describe('curves', () => {
  it('go through their points, never beyond two neighbours between them, and stay beyond the ends', () => {
    const at = curveThrough(curvePoints('0.1,0.2 0.4,0.21 0.6,0.9 0.9,0.7'))
    expect([0, 0.1, 0.4, 0.6, 0.9, 1].map((x) => Math.round(at(x) * 1e6) / 1e6)).toEqual([
      0.2, 0.2, 0.21, 0.9, 0.7, 0.7,
    ])
    for (let x = 0.1; x < 0.4; x += 0.01) expect(at(x)).toBeLessThanOrEqual(0.21 + 1e-9)
    for (let x = 0.4; x < 0.6; x += 0.01) expect(at(x)).toBeLessThanOrEqual(0.9 + 1e-9)
    const ring = curveThrough(curvePoints('0.05,1 0.5,0 0.95,1'), true)
    expect(ring(0)).toBeCloseTo(ring(1), 9)
    expect(ring(0)).toBeCloseTo(1, 3)
  })

  it('are read from odd text without harm, and written as they were', () => {
    expect(curvePoints('1,1 0,0 x 0.5,NaN 0.5,0.25 0.5,0.3')).toEqual([
      [0, 0],
      [0.5, 0.25],
      [1, 1],
    ])
    expect(curveText(curvePoints('0,0 0.3333,0.25 1,1'))).toBe('0,0 0.3333,0.25 1,1')
    expect(curveThrough([])(0.3)).toBe(0.3)
  })
})
