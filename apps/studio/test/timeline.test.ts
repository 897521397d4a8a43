import { describe, expect, it } from 'vitest'
import {
  applyCommand,
  clipsOn,
  commandSchema,
  createProject,
  reelsOf,
  type Asset,
  type CommandInput,
  type Project,
} from '@dusk/timeline'
import { planMove, planPlace, STILL_LENGTH } from '~/features/timeline/drop'
import { rowAt, rowsOf } from '~/features/timeline/layout'
import { clipAt, firstVisible } from '~/features/timeline/layout'
import { nearest } from '~/features/timeline/paint'
import { snapBy, snapTargets } from '~/features/timeline/snapping'

const SECOND = 705_600_000
const shot: Asset = {
  id: '00000000-0000-4000-8000-0000000000a1',
  name: 'harbour-wide.mp4',
  kind: 'video',
  length: 10 * SECOND,
  picture: { width: 1920, height: 1080, rate: { num: 30, den: 1 }, variable: false, alpha: false },
  sounds: [{ channels: 2, length: 10 * SECOND, title: '' }],
}
const song: Asset = {
  id: '00000000-0000-4000-8000-0000000000a2',
  name: 'night-song.wav',
  kind: 'sound',
  length: 60 * SECOND,
  picture: null,
  sounds: [{ channels: 2, length: 60 * SECOND, title: '' }],
}
const card: Asset = {
  ...shot,
  id: '00000000-0000-4000-8000-0000000000a3',
  name: 'card.png',
  kind: 'still',
  length: 0,
  sounds: [],
  picture: { ...shot.picture!, rate: null },
}

function perform(project: Project, input: CommandInput): Project {
  return applyCommand(project, commandSchema.parse(input), crypto.randomUUID()).project
}

function desk() {
  let project = createProject('Desk', { width: 1920, height: 1080, rate: { num: 30, den: 1 } })
  for (const asset of [shot, song, card]) project = perform(project, { type: 'addAsset', asset })
  const reelId = reelsOf(project)[0]!.id
  return { project, reelId, rows: rowsOf(project, reelId) }
}

const row = (rows: ReturnType<typeof rowsOf>, name: string) => rows.find((entry) => entry.track.name === name)!

describe('rows', () => {
  it('show the picture in front at the top and sounds below', () => {
    const { rows } = desk()
    expect(rows.map((entry) => entry.track.name)).toEqual(['Picture 2', 'Picture 1', 'Voice', 'Music', 'Effects'])
    expect(rowAt(rows, -5)!.track.name).toBe('Picture 2')
    expect(rowAt(rows, rows[2]!.top + 3)!.track.name).toBe('Voice')
    expect(rowAt(rows, 9999)!.track.name).toBe('Effects')
  })
})

describe('dropping footage', () => {
  it('puts picture and sound of a shot on their tracks, linked', () => {
    const { project, rows } = desk()
    const plan = planPlace(
      project,
      rows,
      [{ asset: shot }],
      { target: row(rows, 'Picture 2').track },
      2 * SECOND,
      false,
    )
    expect(plan.words).toBe('place at 0:00:02:00')
    const next = perform(project, plan.command!)
    const [picture] = clipsOn(next, row(rows, 'Picture 2').track.id)
    const [sound] = clipsOn(next, row(rows, 'Effects').track.id)
    expect([picture!.start, picture!.length, sound!.start]).toEqual([2 * SECOND, 10 * SECOND, 2 * SECOND])
    expect(picture!.link).toBe(sound!.link)
    expect(picture!.link).not.toBeNull()
  })

  it('takes only the sound of a shot on a sound track, and sends a song to the music', () => {
    const { project, rows } = desk()
    const only = perform(
      project,
      planPlace(project, rows, [{ asset: shot }], { target: row(rows, 'Voice').track }, 0, false).command!,
    )
    expect(Object.values(only.clips).map((clip) => only.tracks[clip.trackId]!.name)).toEqual(['Voice'])
    const music = perform(
      project,
      planPlace(project, rows, [{ asset: song }], { target: row(rows, 'Picture 1').track }, 0, false).command!,
    )
    expect(Object.values(music.clips).map((clip) => music.tracks[clip.trackId]!.name)).toEqual(['Music'])
  })

  it('keeps sounds of films on one track, though the sound of one ends a hair after its picture', () => {
    const { project, rows } = desk()
    // Twelve seconds at 23.976 frames/s: a picture of 360 frames of the reel, and a sound that ends 5 ms later.
    const film = {
      ...shot,
      id: '00000000-0000-4000-8000-0000000000a9',
      length: 12.012 * SECOND,
      picture: { ...shot.picture!, rate: { num: 24_000, den: 1001 } },
      sounds: [{ channels: 2, length: 8_470_536_900, title: '' }],
    }
    const { track } = row(rows, 'Picture 1')
    const place = (into: Project, asset: Asset, at: number) =>
      perform(into, planPlace(into, rows, [{ asset }], { target: track }, at, false).command!)
    const first = place(perform(project, { type: 'addAsset', asset: film }), film, 0)
    const next = place(first, shot, 12 * SECOND)
    expect(clipsOn(next, track.id).map(({ start }) => start)).toEqual([0, 12 * SECOND])
    const heard = clipsOn(next, row(rows, 'Effects').track.id)
    expect(heard.map(({ start }) => start)).toEqual([0, 12 * SECOND])
    expect(heard[0]!.length).toBe(12 * SECOND)
    // Dropped together, each picture begins with its sound, and none is cut short by more than that.
    const parts = [film, shot, film].map((asset) => ({ asset }))
    const known = perform(project, { type: 'addAsset', asset: film })
    const together = perform(known, planPlace(known, rows, parts, { target: track }, 0, false).command!)
    const starts = (name: string) => clipsOn(together, row(rows, name).track.id).map(({ start }) => start / SECOND)
    expect(starts('Picture 1')).toEqual([0, 12, 22])
    expect(starts('Effects')).toEqual([0, 12, 22])
    // Dragged back to it, a shot is behind it and no further.
    const far = place(first, shot, 20 * SECOND)
    const [, clip] = clipsOn(far, track.id)
    const both = Object.values(far.clips).filter(({ link }) => link === clip!.link)
    const back = planMove(far, rows, both, -8 * SECOND, 0, 'picture', false, true)
    expect(back.words).toBe('place at 0:00:12:00')
  })

  it('says that later clips make room, or, with the key, what is covered', () => {
    const { project, rows } = desk()
    const track = row(rows, 'Picture 1').track
    const filled = perform(project, planPlace(project, rows, [{ asset: shot }], { target: track }, 0, false).command!)
    const insert = planPlace(filled, rows, [{ asset: card }], { target: track }, 4 * SECOND, false)
    expect(insert.words).toBe('insert, later clips move 5.00 s')
    const next = perform(filled, insert.command!)
    expect(clipsOn(next, track.id).map((clip) => clip.start / SECOND)).toEqual([0, 4, 9])
    const over = planPlace(filled, rows, [{ asset: card }], { target: track }, 4 * SECOND, true)
    expect(over.words).toContain('covers')
    expect(clipsOn(perform(filled, over.command!), track.id).map((clip) => clip.length / SECOND)).toEqual([
      4,
      STILL_LENGTH / SECOND,
      1,
    ])
  })

  it('refuses in words on a locked track and changes nothing', () => {
    const { project, reelId } = desk()
    const id = rowsOf(project, reelId)[1]!.track.id
    const locked = perform(project, { type: 'setTrack', trackId: id, set: { locked: true } })
    const rows = rowsOf(locked, reelId)
    const plan = planPlace(locked, rows, [{ asset: shot }], { target: row(rows, 'Picture 1').track }, 0, false)
    expect(plan.command).toBeNull()
    expect(plan.words).toContain('locked')
  })
})

describe('moving clips', () => {
  /** Three shots of four seconds behind each other on Picture 1, their sounds beneath. */
  function three() {
    const { project, rows } = desk()
    const track = row(rows, 'Picture 1').track
    let filled = project
    for (const at of [0, 4, 8])
      filled = perform(
        filled,
        planPlace(filled, rows, [{ asset: shot, length: 4 * SECOND }], { target: track }, at * SECOND, false).command!,
      )
    const starts = (next: Project, name = 'Picture 1') =>
      clipsOn(next, row(rows, name).track.id).map((clip) => [
        Math.round((clip.start / SECOND) * 30),
        Math.round((clip.length / SECOND) * 30),
      ])
    return { filled, rows, track, starts }
  }

  it('pushes later clips by what overlaps, and says by how much', () => {
    const { filled, rows, track, starts } = three()
    const [first] = clipsOn(filled, track.id)
    const both = Object.values(filled.clips).filter((clip) => clip.link === first!.link)
    const plan = planMove(filled, rows, both, SECOND / 10, 0, 'picture', false, true)
    expect(plan.words).toBe('push, later clips move 0.10 s')
    const next = perform(filled, plan.command!)
    expect(starts(next)).toEqual([
      [3, 120],
      [123, 120],
      [243, 120],
    ])
    expect(starts(next, 'Effects')).toEqual(starts(next))
  })

  it('stays behind the clip before it when dragged a little into its end', () => {
    const { filled, rows, track, starts } = three()
    const last = clipsOn(filled, track.id)[2]!
    const both = Object.values(filled.clips).filter((clip) => clip.link === last.link)
    const apart = perform(filled, { type: 'move', clipIds: [last.id], by: 2 * SECOND, mode: 'free' })
    const moved = both.map((clip) => apart.clips[clip.id]!)
    const plan = planMove(apart, rows, moved, -2.1 * SECOND, 0, 'picture', false, true)
    expect(plan.words).toContain('behind the clip before it')
    expect(starts(perform(apart, plan.command!))).toEqual(starts(filled))
    // Dropped well inside another clip it is put in there, and all later ones make room for the whole of it.
    const into = planMove(apart, rows, moved, -4.5 * SECOND, 0, 'picture', false, true)
    expect(into.words).toBe('insert, later clips move 4.00 s')
  })

  it('shifts rows within their kind and stops at the start of the reel', () => {
    const { project, rows } = desk()
    const placed = perform(
      project,
      planPlace(project, rows, [{ asset: shot }], { target: row(rows, 'Picture 1').track }, SECOND, false).command!,
    )
    const clips = Object.values(placed.clips)
    const plan = planMove(placed, rows, clips, -5 * SECOND, -1, 'picture', false, true)
    const next = perform(placed, plan.command!)
    expect(Object.values(next.clips).map((clip) => [next.tracks[clip.trackId]!.name, clip.start])).toEqual(
      expect.arrayContaining([
        ['Picture 2', 0],
        ['Effects', 0],
      ]),
    )
    // No row above the first: the clip stays on its own.
    const stay = planMove(placed, rows, clips, 0, -5, 'picture', false, true)
    expect(stay.ghosts.map((ghost) => ghost.trackId).sort()).toEqual(clips.map((clip) => clip.trackId).sort())
  })
})

describe('sticking', () => {
  it('finds the nearest edge within reach and names it', () => {
    const { project, rows, reelId } = desk()
    const placed = perform(
      project,
      planPlace(project, rows, [{ asset: shot }], { target: row(rows, 'Picture 1').track }, SECOND, false).command!,
    )
    const targets = snapTargets(placed, reelId, new Set(), 5 * SECOND)
    expect(snapBy([1.1 * SECOND], targets, 0.2 * SECOND)).toEqual({
      by: expect.closeTo(-0.1 * SECOND, 0) as number,
      target: expect.objectContaining({ name: 'harbour-wide.mp4, start' }) as object,
    })
    expect(snapBy([4.95 * SECOND, 30 * SECOND], targets, 0.2 * SECOND)!.target.name).toBe('playhead')
    expect(snapBy([8 * SECOND], targets, 0.2 * SECOND)).toBeNull()
    const without = snapTargets(placed, reelId, new Set(Object.keys(placed.clips)), 5 * SECOND)
    expect(without.map((target) => target.name)).toEqual(['start', 'playhead'])
  })
})

describe('looking up what to draw', () => {
  it('finds the first clip on screen and the nearest picture of a strip', () => {
    const { project, rows } = desk()
    const track = row(rows, 'Picture 1').track
    let filled = project
    for (const at of [0, 20, 40])
      filled = perform(
        filled,
        planPlace(filled, rows, [{ asset: card }], { target: track }, at * SECOND, false).command!,
      )
    const clips = clipsOn(filled, track.id)
    expect([0, 5, 6, 25, 100].map((second) => firstVisible(clips, second * SECOND))).toEqual([0, 1, 1, 2, 3])
    // The clips lie at 0, 20 and 40 s, five seconds each.
    const under = (second: number, ...rest: [number?, Set<string>?]) => clipAt(clips, second * SECOND, ...rest)?.start
    expect([-1, 0, 4.9, 5, 22, 46].map((second) => under(second))).toEqual([
      undefined,
      0,
      0,
      undefined,
      20 * SECOND,
      undefined,
    ])
    expect(under(2, 6 * SECOND)).toBeUndefined()
    expect(under(2, 6 * SECOND, new Set([clips[0]!.id]))).toBe(0)
    expect([-5, 0, 4, 6, 99].map((time) => nearest([0, 10, 20], time))).toEqual([0, 0, 0, 1, 2])
  })
})
