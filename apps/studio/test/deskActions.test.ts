import { describe, expect, it } from 'vitest'
import { sourceTimeAt } from '@dusk/timeline'
import { useMarkerActions } from '~/features/markers/useMarkerActions'
import { useActionList, useOpenClip } from '~/features/registry/feature'
import { useSourceActions } from '~/features/source/useSourceActions'
import { useSourceRemoval } from '~/features/library/useSourceRemoval'
import { useAim } from '~/features/timeline/aimStore'
import { useEditActions } from '~/features/timeline/useEditActions'
import { useTransitionActions } from '~/features/transitions/useTransitionActions'
import { useSource } from '~/features/player/sourceStore'
import { useNotices } from '~/features/ui/noticesStore'
import { openDesk } from './tools/desk'
import { CARD, HARBOUR, id, SECOND, SONG } from './tools/server'

const frame = SECOND / 30

/** What the desk can do, whichever feature does it. */
const useActs = () => ({
  ...useEditActions(),
  ...useSourceActions(),
  ...useMarkerActions(),
  fade: useTransitionActions().fade,
  openClip: useOpenClip(),
})

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

describe('arranging', () => {
  it('nudges, swaps and duplicates what is selected', async () => {
    const studio = await openDesk()
    const act = studio.within(useActs)
    const [first] = studio.pair(0, 30)
    studio.pair(30, 60, 60)
    studio.desk.select([first], studio.project.document)
    act.swap('next')
    expect(studio.frames('Picture 1')).toEqual([
      [0, 60],
      [60, 30],
    ])
    act.nudge(5)
    expect(studio.frames('Picture 1')).toEqual([
      [0, 60],
      [65, 30],
    ])
    expect(studio.frames('Effects')).toEqual([
      [0, 60],
      [65, 30],
    ])
    act.duplicate()
    expect(studio.frames('Picture 1')).toEqual([
      [0, 60],
      [65, 30],
      [95, 30],
    ])
  })

  it('copies, cuts and pastes: later clips make room, or it lies over them', async () => {
    const studio = await openDesk()
    const act = studio.within(useActs)
    await act.paste('insert')
    expect(studio.said()).toBe('Nothing was copied yet.')
    const [first] = studio.pair(0, 30)
    studio.pair(30, 60, 60)
    studio.desk.select([first], studio.project.document)
    act.cut()
    expect(studio.frames('Picture 1')).toEqual([[30, 60]])
    studio.player.seek(60 * frame)
    await act.paste('insert')
    expect(studio.frames('Picture 1')).toEqual([
      [30, 30],
      [60, 30],
      [90, 30],
    ])
    expect(studio.player.tick.value).toBe(90 * frame)
    studio.player.seek(40 * frame)
    await act.paste('over')
    expect(studio.frames('Picture 1')).toEqual([
      [30, 10],
      [40, 30],
      [70, 20],
      [90, 30],
    ])
  })

  it('brings sources of another project in before it pastes from there', async () => {
    const theirs = { ...HARBOUR, id: id(0xb1) }
    const studio = await openDesk([{ type: 'addAsset', asset: theirs }])
    const act = studio.within(useActs)
    const [first] = studio.pair(0, 30)
    studio.desk.select([first], studio.project.document)
    act.copy()
    const clipboard = Object.entries(localStorage).find(([, value]) => String(value).includes(studio.project.id))!
    localStorage.setItem(clipboard[0], String(clipboard[1]).replaceAll(studio.project.id, id(0x77)))
    studio.server.answers.set(`POST /projects/${studio.project.id}/import-assets`, { ids: { [HARBOUR.id]: theirs.id } })
    studio.player.seek(90 * frame)
    await act.paste('insert')
    const call = studio.server.calls.find(({ path }) => path.endsWith('/import-assets'))!
    expect(call.body).toEqual({ fromProject: id(0x77), assetIds: [HARBOUR.id] })
    const pasted = studio.on('Picture 1').at(-1)!
    expect(pasted.kind === 'media' && pasted.assetId).toBe(theirs.id)
  })

  it('links and unlinks, and unties sound', async () => {
    const studio = await openDesk()
    const act = studio.within(useActs)
    const [picture, sound] = studio.pair(0, 30)
    studio.desk.select([picture], studio.project.document)
    expect(studio.desk.selection).toEqual(new Set([picture, sound]))
    act.detachSound()
    expect(studio.desk.selection).toEqual(new Set([sound]))
    expect(studio.project.document!.clips[picture]!.link).toBeNull()
    act.toggleLink()
    expect(studio.said()).toContain('Select the clips to link')
    studio.desk.toggle(picture, studio.project.document!)
    act.toggleLink()
    expect(studio.project.document!.clips[picture]!.link).toBe(studio.project.document!.clips[sound]!.link)
    expect(studio.project.document!.clips[picture]!.link).not.toBeNull()
  })

  it('makes a reel of the selection and opens it out again', async () => {
    const studio = await openDesk()
    const act = studio.within(useActs)
    const [first] = studio.pair(0, 30)
    studio.desk.select([first], studio.project.document)
    act.unnest()
    expect(studio.said()).toBe('Select a nested reel first.')
    act.nest()
    const shell = studio.on('Picture 1')[0]!
    expect(shell.kind).toBe('reel')
    expect(Object.values(studio.project.document!.reels).map((reel) => reel.name)).toContain('Reel 2')
    studio.desk.select([shell.id], studio.project.document)
    act.unnest()
    expect(studio.on('Picture 1')[0]!.kind).toBe('media')
  })

  it('selects all, all from here on, and goes from cut to cut', async () => {
    const studio = await openDesk()
    const act = studio.within(useActs)
    studio.pair(0, 30)
    const [second] = studio.pair(40, 30)
    act.selectAll()
    expect(studio.desk.selection.size).toBe(4)
    studio.desk.select([], null)
    studio.player.seek(35 * frame)
    act.selectOnwards()
    expect(studio.desk.selection).toContain(second)
    expect(studio.desk.selection.size).toBe(2)
    const stops: number[] = []
    studio.player.seek(0)
    const go = (direction: 1 | -1) => {
      act.jump(direction)
      stops.push(studio.player.tick.value / frame)
    }
    for (let i = 0; i < 5; i++) go(1)
    expect(stops).toEqual([30, 40, 70, 70, 70])
    for (let i = 0; i < 4; i++) go(-1)
    expect(stops.slice(5)).toEqual([40, 30, 0, 0])
  })
})

describe('choosing', () => {
  it('opens a source, marks a part, keeps it as a pick and goes back to the reel', async () => {
    const studio = await openDesk()
    const act = studio.within(useActs)
    const source = useSource()
    act.keepPick()
    expect(studio.said()).toContain('Open a source')
    studio.pair(0, 60)
    studio.player.seek(20 * frame)
    act.openSource(HARBOUR.id)
    expect(source.parked).toBe(20 * frame)
    studio.player.seek(30 * frame)
    act.mark('in')
    studio.player.seek(59 * frame)
    act.mark('out')
    // The frame that is shown belongs to the part.
    expect(source.range).toEqual({ from: 30 * frame, to: 60 * frame })
    act.keepPick()
    expect(Object.values(studio.project.document!.subclips)).toMatchObject([
      { name: 'Part 1', from: 30 * frame, to: 60 * frame, assetId: HARBOUR.id },
    ])
    act.clearMarks()
    expect(source.range).toEqual({ from: 0, to: source.reel!.length })
    act.closeSource()
    expect(source.assetId).toBeNull()
  })

  it('puts the marked part in by three points: inserted, laid over, added, stacked', async () => {
    const studio = await openDesk()
    const act = studio.within(useActs)
    const source = useSource()
    studio.pair(0, 60)
    act.openSource(HARBOUR.id)
    source.mark('in', 90 * frame)
    source.mark('out', 120 * frame)
    source.parked = 30 * frame
    act.use('insert')
    expect(studio.frames('Picture 1')).toEqual([
      [0, 30],
      [30, 30],
      [60, 30],
    ])
    expect(source.parked).toBe(60 * frame)
    act.use('over')
    expect(studio.frames('Picture 1')).toEqual([
      [0, 30],
      [30, 30],
      [60, 30],
    ])
    act.use('append')
    expect(studio.frames('Picture 1').at(-1)).toEqual([90, 30])
    source.parked = 0
    studio.desk.select([], null)
    act.use('stack')
    expect(studio.frames('Picture 2')).toEqual([[0, 30]])
  })

  it('takes place and length from a marked range of the reel', async () => {
    const studio = await openDesk()
    const act = studio.within(useActs)
    studio.pair(0, 90)
    studio.desk.range = { from: 30 * frame, to: 45 * frame }
    act.openSource(HARBOUR.id)
    useSource().mark('in', 150 * frame)
    act.use('over')
    expect(studio.frames('Picture 1')).toEqual([
      [0, 30],
      [30, 15],
      [45, 45],
    ])
    const laid = studio.on('Picture 1')[1]!
    expect(laid.kind === 'media' && laid.map.source / frame).toBe(150)
  })

  it('replaces the selected clip and keeps its length', async () => {
    const studio = await openDesk()
    const act = studio.within(useActs)
    act.replace()
    expect(studio.said()).toContain('Select the clip to replace')
    const [picture] = studio.pair(0, 60)
    act.openSource(HARBOUR.id)
    useSource().mark('in', 120 * frame)
    studio.desk.select([picture], studio.project.document)
    act.replace()
    expect(studio.frames('Picture 1')).toEqual([[0, 60]])
    const clip = studio.on('Picture 1')[0]!
    expect(clip.kind === 'media' && clip.map.source / frame).toBe(120)
  })

  it('says how much a shorter source lacks, and offers three ways', async () => {
    const studio = await openDesk()
    const act = studio.within(useActs)
    for (const [label, wanted] of [
      ['Shorten the clip', [[0, 30]]],
      ['Play it slower', [[0, 60]]],
      // What is held is a clip of its own behind it.
      [
        'Hold its last frame',
        [
          [0, 30],
          [30, 30],
        ],
      ],
    ] as const) {
      const [picture] = studio.pair(0, 60)
      act.openSource(HARBOUR.id)
      useSource().mark('in', 270 * frame)
      studio.desk.select([picture], studio.project.document)
      act.replace()
      expect(studio.frames('Picture 1'), 'nothing is done unasked').toEqual([[0, 60]])
      const notice = useNotices().list.find(({ text }) => text.includes('1.00 s from there, the clip 2.00 s'))!
      notice.actions.find((action) => action.label === label)!.run()
      expect(studio.frames('Picture 1'), label).toEqual(wanted)
      useNotices().drop(notice.id)
      studio.project.undo()
      studio.project.undo()
    }
  })

  it('insert with only a sound selected brings the picture too', async () => {
    const studio = await openDesk()
    const act = studio.within(useActs)
    const [, sound] = studio.pair(0, 60)
    act.openSource(HARBOUR.id)
    studio.desk.linked = false
    studio.desk.select([sound], studio.project.document)
    studio.player.seek(60 * frame)
    useSource().parked = 60 * frame
    act.use('insert')
    expect(studio.frames('Picture 1')).toHaveLength(2)
    expect(studio.on('Voice').length + studio.on('Effects').length + studio.on('Music').length).toBe(2)
  })

  it('puts what comes in on the tracks that are aimed at, and remembers them for the reel', async () => {
    const studio = await openDesk()
    const act = studio.within(useActs)
    const aim = useAim()
    const track = (name: string) => Object.values(studio.project.document!.tracks).find((one) => one.name === name)!
    aim.toggle(track('Picture 2'))
    aim.toggle(track('Music'))
    act.openSource(HARBOUR.id)
    act.use('over')
    expect([studio.frames('Picture 2').length, studio.frames('Music').length]).toEqual([1, 1])
    // Laid over, the picture covers the picture there and its sound the sound: nothing of either is left beneath.
    studio.project.perform({ type: 'addTrack', reelId: studio.project.reelId, purpose: 'ambience' })
    studio.player.seek(0)
    useSource().parked = 0
    act.use('over')
    expect(studio.frames('Music')).toHaveLength(1)
    const { tracks, clips } = studio.project.document!
    expect(Object.values(clips).filter((clip) => tracks[clip.trackId]!.purpose === 'ambience')).toEqual([])
    await expect.poll(() => localStorage.getItem('dusk.aims')).toContain(track('Music').id)
    // Aimed at again it is free, and a locked one is passed over.
    aim.toggle(track('Music'))
    expect(aim.trackOf('sound')).toBeNull()
    studio.project.perform({ type: 'setTrack', trackId: track('Picture 2').id, set: { locked: true } })
    expect(aim.trackOf('picture')).toBeNull()
  })

  it('says where a removed source was used, and gives all of it back at a click', async () => {
    const studio = await openDesk()
    const removal = studio.within(useSourceRemoval)
    studio.pair(0, 60)
    studio.pair(90, 30)
    removal.remove([HARBOUR.id])
    expect(studio.frames('Picture 1')).toEqual([])
    const notice = useNotices().list.at(-1)!
    expect(notice.text).toMatch(/is removed\. It was used 2 times in “.+”: those clips went with it\./)
    notice.actions[0]!.run()
    expect(studio.frames('Picture 1')).toEqual([
      [0, 60],
      [90, 30],
    ])
    // After other steps it says so instead of taking those back.
    removal.remove([CARD.id, SONG.id])
    expect(useNotices().list.at(-1)!.text).toBe('2 sources are removed.')
    studio.pair(200, 10)
    useNotices().list.at(-1)!.actions[0]!.run()
    expect(studio.said()).toContain('Other steps have followed')
    expect(studio.project.document!.assets[CARD.id]).toBeUndefined()
  })

  it('adds to the end, a run of stills with a length each, and sound at the playhead', async () => {
    const studio = await openDesk()
    const act = studio.within(useActs)
    studio.pair(0, 60)
    act.addToEnd([HARBOUR.id])
    expect(studio.frames('Picture 1')).toEqual([
      [0, 60],
      [60, 300],
    ])
    const card = studio.project.document!.assets[CARD.id]!
    act.addRun([card, card, card], 4)
    expect(studio.frames('Picture 1').slice(2)).toEqual([
      [360, 4],
      [364, 4],
      [368, 4],
    ])
    studio.player.seek(15 * frame)
    act.addToEnd([SONG.id])
    const tracks = ['Voice', 'Music', 'Effects'].filter((name) => studio.frames(name).some(([start]) => start === 15))
    expect(tracks).toEqual(['Music'])
  })

  it('opens the source of a clip where the clip shows it, and a nested reel itself', async () => {
    const studio = await openDesk()
    const act = studio.within(useActs)
    const source = useSource()
    const [picture] = studio.pair(30, 60, 90)
    studio.player.seek(45 * frame)
    act.openClip(studio.project.document!.clips[picture]!)
    expect([source.startAt, source.from, source.to].map((tick) => tick! / frame)).toEqual([105, 90, 150])
    act.closeSource()
    studio.desk.select([picture], studio.project.document)
    act.nest()
    act.openClip(studio.on('Picture 1')[0]!)
    expect(studio.project.reel!.name).toBe('Reel 2')
  })
})

describe('markers', () => {
  it('lie on the reel, or on the one clip that is selected, and are gone to in order', async () => {
    const studio = await openDesk()
    const act = studio.within(useActs)
    const [picture] = studio.pair(30, 60, 90)
    studio.player.seek(10 * frame)
    act.addMarker()
    studio.desk.linked = false
    studio.desk.select([picture], studio.project.document)
    studio.player.seek(50 * frame)
    act.addMarker()
    expect(act.markerPlaces().map(({ at, clip, marker }) => [at / frame, clip?.id ?? null, marker.name])).toEqual([
      [10, null, 'Marker 1'],
      [50, picture, 'Marker 2'],
    ])
    // A picture selected with its sound is one clip too.
    studio.desk.linked = true
    const [shot] = studio.pair(200, 30)
    studio.desk.select([shot], studio.project.document)
    studio.player.seek(210 * frame)
    act.addMarker()
    expect(act.markerPlaces().at(-1)!.clip!.id).toBe(shot)
    studio.project.undo()
    studio.project.undo()
    studio.desk.linked = false
    studio.desk.select([picture], studio.project.document)
    // A marker on a clip moves with it.
    act.nudge(10)
    expect(act.markerPlaces().map(({ at }) => at / frame)).toEqual([10, 60])
    studio.player.seek(0)
    act.jumpMarker(1)
    act.jumpMarker(1)
    expect(studio.player.tick.value / frame).toBe(60)
    act.jumpMarker(-1)
    expect(studio.player.tick.value / frame).toBe(10)
  })
})

describe('the list of actions', () => {
  it('has one action for each id, and each runs on an empty desk without an error', async () => {
    const studio = await openDesk()
    const list = studio.within(useActionList)
    expect(new Set(list.map((action) => action.id)).size).toBe(list.length)
    for (const action of list) expect(() => action.run(), action.id).not.toThrow()
  })

  it('each runs on a full desk, and all of it can be undone', async () => {
    const studio = await openDesk()
    const [picture] = studio.pair(0, 60)
    studio.pair(60, 60, 120)
    const before = structuredClone(studio.project.document)
    for (const action of studio.within(useActionList)) {
      if (action.id.startsWith('edit.')) continue
      studio.desk.select([picture], studio.project.document)
      studio.player.seek(30 * frame)
      const done = studio.project.history.done.length
      expect(() => action.run(), action.id).not.toThrow()
      while (studio.project.history.done.length > done) studio.project.undo()
      expect(studio.project.document, action.id).toEqual(before)
    }
  })
})
