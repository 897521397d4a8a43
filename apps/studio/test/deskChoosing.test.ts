import { describe, expect, it } from 'vitest'
import { useSourceRemoval } from '~/features/library/useSourceRemoval'
import { useAim } from '~/features/timeline/aimStore'
import { useSource } from '~/features/player/sourceStore'
import { useNotices } from '~/features/ui/noticesStore'
import { openDesk } from './tools/desk'
import { CARD, HARBOUR, SECOND, SONG } from './tools/server'
import { useActs } from './tools/acts'

const frame = SECOND / 30

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
