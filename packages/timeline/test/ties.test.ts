import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { applyCommand, check, clipsOn, CommandRefused, commandSchema, slips, type CommandInput } from '../src/index'
import { desk, f, layout, placePair, refusal, run, SONG, uuid } from './helpers'

describe('links', () => {
  it('shows the slip of a pair in ticks and puts it back', () => {
    const d = desk()
    const { project, p, s } = placePair(d.project, d.picture1.id, d.voice.id, 1, 30, 60)
    const slipped = run(project, { type: 'move', clipIds: [s], by: f(4), mode: 'free', linked: false })
    expect([...slips(slipped)]).toEqual([[s, f(4)]])
    const back = run(slipped, { type: 'resync', clipIds: [p, s] })
    expect(back.clips).toEqual(project.clips)
    expect(refusal(() => run(back, { type: 'resync', clipIds: [p, s] })).rule).toBe('nothing')
  })

  it('takes the places of clips linked by hand as in sync', () => {
    const d = desk()
    let { project } = placePair(d.project, d.picture1.id, d.voice.id, 1, 30, 60)
    project = run(project, {
      type: 'place',
      mode: 'free',
      pieces: [
        {
          clipId: uuid(50),
          trackId: d.music.id,
          assetId: SONG,
          stream: 0,
          start: f(7),
          length: f(100),
          source: f(300),
          link: null,
        },
      ],
    })
    project = run(project, { type: 'link', clipIds: [uuid(1), uuid(2), uuid(50)] })
    expect(slips(project).size).toBe(0)
    const moved = run(project, { type: 'move', clipIds: [uuid(1)], by: f(10), mode: 'free' })
    expect(layout(moved, d.music.id)).toEqual([[17, 100]])
    expect(slips(moved).size).toBe(0)
    const trimmed = run(moved, { type: 'trim', clipId: uuid(50), edge: 'start', to: f(30) })
    expect(slips(trimmed).size).toBe(0)
    const alone = run(trimmed, { type: 'move', clipIds: [uuid(50)], by: f(-3), mode: 'free', linked: false })
    expect([...slips(alone)]).toEqual([[uuid(50), f(-3)]])
  })

  it('detaches sound, which then stays where it is', () => {
    const d = desk()
    const { project, p, s } = placePair(d.project, d.picture1.id, d.voice.id, 1, 30, 60)
    const free = run(project, { type: 'unlink', clipIds: [s] })
    expect([free.clips[p]!.link, free.clips[s]!.link]).toEqual([null, null])
    const moved = run(free, { type: 'move', clipIds: [p], by: f(90), mode: 'free' })
    expect(layout(moved, d.voice.id)).toEqual([[30, 60]])
  })

  it('groups and ungroups', () => {
    const d = desk()
    let { project } = placePair(d.project, d.picture1.id, d.voice.id, 1, 0, 60)
    project = placePair(project, d.picture1.id, d.voice.id, 11, 60, 60).project
    const tied = run(project, { type: 'group', clipIds: [uuid(1), uuid(11)] })
    expect(tied.clips[uuid(1)]!.group).toBe(tied.clips[uuid(11)]!.group)
    expect(run(tied, { type: 'ungroup', clipIds: [uuid(11)] }).clips).toEqual(project.clips)
  })
})

describe('sync', () => {
  const step = fc.record({
    type: fc.constantFrom(
      'move',
      'insert',
      'remove',
      'trim',
      'ripple',
      'roll',
      'slip',
      'slide',
      'split',
      'cutOut',
      'swap',
      'closeGaps',
      'duplicate',
      'freeze',
    ),
    pick: fc.nat(50),
    at: fc.integer({ min: 0, max: 600 }),
    // Odd ticks: an API user, or a drag on a sound, gives positions on no frame.
    odd: fc.nat(30_000_000),
    flag: fc.boolean(),
  })

  it('of linked sound survives every command that takes pairs along, whatever the position it is given', () => {
    let ids = 0x4000
    fc.assert(
      fc.property(fc.array(step, { minLength: 1, maxLength: 60 }), (steps) => {
        const d = desk()
        let { project } = placePair(d.project, d.picture1.id, d.voice.id, 1, 0, 90, 40)
        project = placePair(project, d.picture1.id, d.voice.id, 11, 90, 70, 60).project
        project = placePair(project, d.picture2.id, d.effects.id, 21, 200, 60, 90).project
        for (const { type, pick, at, odd, flag } of steps) {
          const clips = Object.values(project.clips)
          const clip = clips[pick % clips.length]
          if (!clip) break
          const lane = clipsOn(project, clip.trackId)
          const next = lane[lane.indexOf(clip) + 1]
          const tick = f(at) + odd
          const commands: Record<string, CommandInput | null> = {
            move: { type: 'move', clipIds: [clip.id], by: tick - clip.start, mode: flag ? 'insert' : 'free' },
            insert: { type: 'move', clipIds: [clip.id], by: tick - clip.start, mode: 'insert' },
            remove: { type: 'remove', clipIds: [clip.id], closeUp: true },
            trim: { type: 'trim', clipId: clip.id, edge: flag ? 'start' : 'end', to: tick },
            ripple: { type: 'trim', clipId: clip.id, edge: flag ? 'start' : 'end', to: tick, mode: 'ripple' },
            roll: next ? { type: 'roll', leftId: clip.id, rightId: next.id, to: tick } : null,
            slip: { type: 'slip', clipIds: [clip.id], by: tick - f(300) },
            slide: { type: 'slide', clipId: clip.id, by: tick - f(300) },
            split: { type: 'split', reelId: d.reelId, at: tick, clipIds: null },
            cutOut: { type: 'cutOut', reelId: d.reelId, from: tick, to: tick + f(17) + 5_000, closeUp: true },
            swap: { type: 'swap', clipId: clip.id, with: flag ? 'next' : 'previous' },
            closeGaps: { type: 'closeGaps', trackId: clip.trackId },
            duplicate: { type: 'duplicate', clipIds: [clip.id] },
            freeze: {
              type: 'freeze',
              clipId: clip.id,
              at: clip.start + Math.floor(clip.length / 2),
              length: f(10) + odd,
            },
          }
          const input = commands[type]
          if (!input) continue
          try {
            project = applyCommand(project, commandSchema.parse(input), uuid((ids += 64))).project
          } catch (error) {
            if (!(error instanceof CommandRefused)) throw error
          }
          expect([type, [...slips(project)]]).toEqual([type, []])
          expect(check(project)).toEqual([])
        }
      }),
      { numRuns: Number(process.env.DUSK_RUNS ?? 200) },
    )
  })
})
