import { describe, expect, it } from 'vitest'
import { snapTargets } from '~/features/timeline/snapping'
import { openDesk } from './tools/desk'
import { HARBOUR, id, SECOND } from './tools/server'
import { useActs } from './tools/acts'

const frame = SECOND / 30

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

describe('cuts', () => {
  it('of a pair are stopped at once, where the picture has them; those of a voice that goes on have stops of their own', async () => {
    const studio = await openDesk()
    const act = studio.within(useActs)
    const [, sound] = studio.pair(0, 30)
    const [, second] = studio.pair(30, 30, 60)
    // It ends most of a frame before its picture, as footage of another rate does.
    const trim = (clipId: string, to: number) =>
      studio.project.perform({ type: 'trim', clipId, edge: 'end', to, linked: false })
    trim(sound, 29.2 * frame)
    trim(second, 55 * frame)
    studio.player.seek(0)
    const stops = Array.from({ length: 4 }, () => {
      act.jump(1)
      return studio.player.tick.value / frame
    })
    expect(stops).toEqual([30, 55, 60, 60])
    const targets = snapTargets(studio.project.document!, studio.project.reelId, new Set(), -1)
    expect(targets.map(({ tick }) => tick / frame)).not.toContain(expect.closeTo(29.2, 1))
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
