import { describe, expect, it } from 'vitest'
import { sourceTimeAt } from '@dusk/timeline'
import { useAim } from '~/features/timeline/aimStore'
import { openDesk } from './tools/desk'
import { SECOND, SONG } from './tools/server'
import { useActs } from './tools/acts'

const frame = SECOND / 30

describe('cutting', () => {
  it('splits what is selected under the playhead, else every track', async () => {
    const studio = await openDesk()
    const act = studio.within(useActs)
    const [picture] = studio.pair(0, 60)
    studio.pair(0, 60, 100, 'Picture 2', 'Music')
    studio.player.seek(30 * frame)
    studio.desk.select([picture], studio.project.document)
    act.split()
    expect(studio.frames('Picture 1')).toEqual([
      [0, 30],
      [30, 30],
    ])
    expect(studio.frames('Picture 2')).toEqual([[0, 60]])
    studio.player.seek(45 * frame)
    studio.desk.select([], null)
    act.split()
    expect(studio.frames('Picture 1')).toEqual([
      [0, 30],
      [30, 15],
      [45, 15],
    ])
    expect(studio.frames('Picture 2')).toEqual([
      [0, 45],
      [45, 15],
    ])
    expect(studio.frames('Music')).toEqual([
      [0, 45],
      [45, 15],
    ])
  })

  it('with nothing selected leaves the music whole, and with an aim cuts there alone', async () => {
    const studio = await openDesk()
    const act = studio.within(useActs)
    studio.pair(0, 60)
    const laid = (name: string) => Object.values(studio.project.document!.tracks).find((one) => one.name === name)!
    const music = {
      ...{ clipId: crypto.randomUUID(), trackId: laid('Music').id, assetId: SONG.id, stream: 0 },
      ...{ start: 0, length: 60 * frame, source: 0, link: null },
    }
    studio.project.perform({ type: 'place', mode: 'free', pieces: [music] })
    studio.player.seek(30 * frame)
    act.split()
    expect(studio.frames('Picture 1')).toHaveLength(2)
    expect(studio.frames('Music')).toHaveLength(1)
    useAim().toggle(laid('Music'))
    studio.player.seek(10 * frame)
    act.split()
    expect(studio.frames('Picture 1')).toHaveLength(2)
    expect(studio.frames('Music')).toEqual([
      [0, 10],
      [10, 50],
    ])
    act.split()
    expect(studio.said()).toContain('nothing to cut here')
    expect(studio.frames('Picture 1')).toHaveLength(2)
    act.split(true)
    expect(studio.frames('Picture 1')).toHaveLength(3)
    useAim().toggle(laid('Music'))
  })

  it('takes a marked range out and leaves the gap, copies it, and pastes it selected', async () => {
    const studio = await openDesk()
    const act = studio.within(useActs)
    studio.pair(0, 60)
    studio.player.seek(10 * frame)
    act.mark('in')
    studio.player.seek(19 * frame)
    act.mark('out')
    // The frame that is shown belongs to what is marked, as in a source.
    expect([studio.desk.range!.from / frame, studio.desk.range!.to / frame]).toEqual([10, 20])
    act.copyRange()
    expect(studio.frames('Picture 1'), 'copying cuts nothing').toEqual([[0, 60]])
    act.cutRange(false)
    expect(studio.frames('Picture 1')).toEqual([
      [0, 10],
      [20, 40],
    ])
    studio.player.seek(100 * frame)
    await act.paste('insert')
    expect(studio.frames('Picture 1').at(-1)).toEqual([100, 10])
    const pasted = studio.on('Picture 1').at(-1)!
    expect(sourceTimeAt(pasted, pasted.start) / frame).toBe(10)
    expect([...studio.desk.selection].sort()).toEqual([pasted.id, studio.on('Effects').at(-1)!.id].sort())
    act.duplicate()
    expect(studio.frames('Picture 1').at(-1)).toEqual([110, 10])
    expect(studio.desk.selection.has(studio.on('Picture 1').at(-1)!.id)).toBe(true)
    expect(studio.desk.selection.has(pasted.id)).toBe(false)
  })

  it('trims, rolls, slips and slides by a frame as drags do, and rolls a cut to the playhead', async () => {
    const studio = await openDesk()
    const act = studio.within(useActs)
    studio.pair(0, 30, 60)
    studio.pair(30, 30, 120)
    studio.pair(60, 30, 180)
    const [first, middle] = studio.on('Picture 1')
    studio.desk.select([middle!.id], studio.project.document)
    studio.player.seek(32 * frame)
    act.byFrames(2)
    expect(studio.frames('Picture 1')[1]).toEqual([32, 28])
    studio.desk.tool = 'ripple'
    studio.player.seek(59 * frame)
    act.byFrames(-3)
    expect(studio.frames('Picture 1').slice(1)).toEqual([
      [32, 25],
      [57, 30],
    ])
    expect(studio.frames('Effects')).toEqual(studio.frames('Picture 1'))
    studio.desk.tool = 'roll'
    act.byFrames(1)
    expect(studio.frames('Picture 1').slice(1)).toEqual([
      [32, 26],
      [58, 29],
    ])
    studio.desk.tool = 'slip'
    const shows = () => sourceTimeAt(studio.project.document!.clips[middle!.id]!, 32 * frame) / frame
    const before = shows()
    act.byFrames(5)
    expect(shows() - before).toBe(5)
    studio.desk.tool = 'slide'
    studio.project.perform({ type: 'trim', clipId: first!.id, edge: 'end', to: 32 * frame })
    act.byFrames(-4)
    expect(studio.frames('Picture 1')).toEqual([
      [0, 28],
      [28, 26],
      [54, 33],
    ])
    studio.desk.tool = 'move'
    studio.player.seek(50 * frame)
    act.rollHere()
    expect(studio.frames('Picture 1').slice(1)).toEqual([
      [28, 22],
      [50, 37],
    ])
  })

  it('moves a sound alone by thousandths, and says that pictures keep to frames', async () => {
    const studio = await openDesk()
    const act = studio.within(useActs)
    const [picture, sound] = studio.pair(30, 60)
    studio.desk.linked = false
    studio.desk.select([picture], studio.project.document)
    act.nudgeFine(1)
    expect(studio.said()).toContain('whole frames')
    studio.desk.select([sound], studio.project.document)
    for (let i = 0; i < 6; i++) act.nudgeFine(1)
    const moved = studio.project.document!.clips[sound]!
    expect((moved.start - 30 * frame) / (SECOND / 1000)).toBeCloseTo(6, 9)
    expect(studio.frames('Picture 1')).toEqual([[30, 60]])
  })

  it('joins halves back, and says when there is nothing to join', async () => {
    const studio = await openDesk()
    const act = studio.within(useActs)
    studio.pair(0, 60)
    studio.player.seek(20 * frame)
    act.split()
    studio.desk.select([studio.on('Picture 1')[1]!.id], studio.project.document)
    act.join()
    expect(studio.frames('Picture 1')).toEqual([[0, 60]])
    act.join()
    expect(studio.said()).toContain('no neighbour')
  })

  it('removes with the gap left or closed, and says what to do when nothing is selected', async () => {
    const studio = await openDesk()
    const act = studio.within(useActs)
    const [first] = studio.pair(0, 30)
    studio.pair(30, 30)
    studio.pair(60, 30)
    act.remove(true)
    expect(studio.said()).toBe('Select a clip first.')
    studio.desk.select([first], studio.project.document)
    act.remove(true)
    expect(studio.frames('Picture 1')).toEqual([
      [0, 30],
      [30, 30],
    ])
    expect(studio.frames('Effects')).toEqual([
      [0, 30],
      [30, 30],
    ])
    expect(studio.desk.selection.size).toBe(0)
    studio.desk.select([studio.on('Picture 1')[0]!.id], studio.project.document)
    act.remove(false)
    expect(studio.frames('Picture 1')).toEqual([[30, 30]])
    act.closeGaps()
    expect(studio.frames('Picture 1')).toEqual([[0, 30]])
  })

  it('cuts a marked range out and goes to where it was', async () => {
    const studio = await openDesk()
    const act = studio.within(useActs)
    studio.pair(0, 90)
    act.cutRange()
    expect(studio.said()).toContain('Mark a range first')
    studio.player.seek(30 * frame)
    act.mark('in')
    studio.player.seek(49 * frame)
    act.mark('out')
    act.cutRange()
    expect(studio.frames('Picture 1')).toEqual([
      [0, 30],
      [30, 40],
    ])
    expect(studio.player.tick.value).toBe(30 * frame)
    expect(studio.desk.range).toBeNull()
  })

  it('brings an edge to the playhead; closing up goes along', async () => {
    const studio = await openDesk()
    const act = studio.within(useActs)
    studio.pair(0, 60)
    studio.pair(60, 30)
    studio.player.seek(20 * frame)
    act.trimHere('start', 'ripple')
    expect(studio.frames('Picture 1')).toEqual([
      [0, 40],
      [40, 30],
    ])
    expect(studio.player.tick.value).toBe(0)
    studio.player.seek(30 * frame)
    act.trimHere('end', 'plain')
    expect(studio.frames('Picture 1')).toEqual([
      [0, 30],
      [40, 30],
    ])
    studio.player.seek(35 * frame)
    act.trimHere('end', 'plain')
    expect(studio.said()).toBe('Put the playhead on a clip first.')
  })

  it('freezes the frame under the playhead for two seconds', async () => {
    const studio = await openDesk()
    const act = studio.within(useActs)
    studio.pair(0, 60)
    studio.player.seek(30 * frame)
    act.freeze()
    expect(studio.frames('Picture 1')).toEqual([
      [0, 30],
      [30, 60],
      [90, 30],
    ])
    const frozen = studio.on('Picture 1')[1]!
    expect(frozen.kind === 'media' && frozen.map.kind).toBe('freeze')
    studio.player.seek(200 * frame)
    act.freeze()
    expect(studio.said()).toBe('Put the playhead on a picture first.')
  })

  it('fades the selected picture and its sound, no longer than they are', async () => {
    const studio = await openDesk()
    const act = studio.within(useActs)
    const [picture] = studio.pair(0, 15)
    studio.desk.select([picture], studio.project.document)
    act.fade('start')
    const made = Object.values(studio.project.document!.transitions)
    expect(made.map(({ kind, before, after }) => [kind, before, after]).sort()).toEqual([
      ['dissolve', 0, 15 * frame],
      ['equalPower', 0, 15 * frame],
    ])
  })
})
