import { beforeEach, describe, expect, it, vi } from 'vitest'
import { createPinia, setActivePinia } from 'pinia'
import HintLine from '~/features/ui/HintLine.vue'
import NoticeList from '~/features/ui/NoticeList.vue'
import { ZOOM } from '~/features/timeline/deskStore'
import { useHints } from '~/features/ui/hintsStore'
import { useNotices } from '~/features/ui/noticesStore'
import { useSource } from '~/features/player/sourceStore'
import { useTransitions } from '~/features/transitions/transitionsStore'
import { openDesk } from './tools/desk'
import { CARD, HARBOUR, SECOND } from './tools/server'

describe('messages at the foot of the page', () => {
  beforeEach(() => {
    setActivePinia(createPinia())
    vi.useFakeTimers()
    return () => void vi.useRealTimers()
  })

  it('go after a while, are not said twice, and are never many', () => {
    const notices = useNotices()
    notices.say('Select a clip first.')
    notices.say('Select a clip first.')
    expect(notices.list).toHaveLength(1)
    for (let i = 0; i < 9; i++) notices.warn(`Message ${i}`)
    expect(notices.list.map((notice) => notice.text)).toEqual(['Message 5', 'Message 6', 'Message 7', 'Message 8'])
    vi.advanceTimersByTime(60_000)
    expect(notices.list).toEqual([])
  })

  it('offer to take something back', async () => {
    vi.useRealTimers()
    const studio = await openDesk()
    const list = studio.show(NoticeList)
    const back = vi.fn()
    useNotices().say('Lantern Night was deleted.', 'plain', { label: 'Undo', run: back })
    await list.vm.$nextTick()
    await list
      .findAll('button')
      .find((entry) => entry.text() === 'Undo')!
      .trigger('click')
    expect(back).toHaveBeenCalledOnce()
  })
})

describe('hints', () => {
  it('are shown once it is known which were closed, and stay closed for good', async () => {
    const studio = await openDesk()
    studio.server.settings.set('desk', { density: 'calm', hints: ['titles'] })
    const hint = studio.show(HintLine, { id: 'titles' })
    expect(hint.text()).toBe('')
    await useHints().load()
    await hint.vm.$nextTick()
    expect(hint.find('button').exists()).toBe(false)
    const other = studio.show(HintLine, { id: 'transitions' })
    await other.find('button').trigger('click')
    expect(other.find('button').exists()).toBe(false)
    await vi.waitFor(() =>
      expect(studio.server.settings.get('desk')).toMatchObject({ hints: ['titles', 'transitions'] }),
    )
  })

  it('are shown when the server can’t say', async () => {
    const studio = await openDesk()
    studio.server.away = true
    await useHints().load()
    expect(useHints().open('titles')).toBe(true)
  })
})

describe('settings of transitions', () => {
  it('are those of the server, and the shipped ones when it is away', async () => {
    const studio = await openDesk()
    studio.server.settings.set('transitions', { standard: 'wipe', seconds: 2, favourites: [] })
    const store = useTransitions()
    await store.load()
    expect(store.preferences.standard).toBe('wipe')
    setActivePinia(createPinia())
    studio.server.away = true
    await useTransitions().load()
    expect(useTransitions().preferences.standard).toBe('dissolve')
  })
})

describe('how the desk stands', () => {
  it('zooms at a place, which stays where it is, within limits', async () => {
    const { desk } = await openDesk()
    desk.pixelsPerSecond = 50
    desk.scroll = 20 * SECOND
    const before = desk.toTick(300)
    desk.zoom(3, before, 60 * SECOND)
    expect(desk.pixelsPerSecond).toBe(150)
    expect(Math.abs(desk.toTick(300) - before)).toBeLessThan(SECOND / 100)
    for (let i = 0; i < 40; i++) desk.zoom(2, before, 60 * SECOND)
    expect(desk.pixelsPerSecond).toBe(ZOOM.max)
    expect(Math.abs(desk.toX(before) - 300)).toBeLessThan(2)
    for (let i = 0; i < 60; i++) desk.zoom(0.5, before, 60 * SECOND)
    expect(desk.pixelsPerSecond).toBe(ZOOM.min)
  })

  it('zooms at what is out of sight by bringing it to the middle, and never shows an empty stretch behind the reel', async () => {
    const { desk } = await openDesk()
    desk.timelineWidth = 800
    desk.pixelsPerSecond = 100
    desk.scroll = 100 * SECOND
    desk.zoom(1.5, 20 * SECOND, 120 * SECOND)
    expect(Math.abs(desk.toX(20 * SECOND) - 400)).toBeLessThan(2)
    // A reel of 16 s, looked at near its end, from where it is zoomed out.
    desk.pixelsPerSecond = 400
    desk.scroll = 15.5 * SECOND
    for (let i = 0; i < 4; i++) {
      desk.zoom(1 / 1.4, 17 * SECOND, 16 * SECOND)
      expect(desk.toX(16 * SECOND)).toBeGreaterThanOrEqual(399)
    }
    expect(desk.scroll).toBeGreaterThanOrEqual(0)
  })

  it('brings places into view that are not, and moves nothing for those that are', async () => {
    const { desk } = await openDesk()
    desk.timelineWidth = 800
    desk.pixelsPerSecond = 100
    desk.scroll = 10 * SECOND
    desk.reveal(12 * SECOND)
    expect(desk.scroll).toBe(10 * SECOND)
    desk.reveal(18.5 * SECOND)
    expect(Math.abs(desk.toX(18.5 * SECOND) - 740)).toBeLessThan(2)
    desk.reveal(0)
    expect(desk.scroll).toBe(0)
    desk.reveal(300 * SECOND)
    expect(Math.abs(desk.toX(300 * SECOND) - 400)).toBeLessThan(2)
    // The wheel ends where there is nothing more, and goes back from wherever something was dragged to.
    desk.scrollTo(5000 * SECOND, 16 * SECOND)
    expect(desk.scroll).toBe(296 * SECOND)
    desk.scrollTo(2 * SECOND, 16 * SECOND)
    desk.scrollTo(5000 * SECOND, 16 * SECOND)
    expect(desk.scroll).toBe(12 * SECOND)
  })

  it('fits a reel, or a part of it, into what is seen', async () => {
    const { desk } = await openDesk()
    desk.timelineWidth = 1000
    desk.fit(60 * SECOND)
    expect(desk.scroll).toBe(0)
    expect(desk.toX(60 * SECOND)).toBeLessThanOrEqual(1000)
    expect(desk.toX(60 * SECOND)).toBeGreaterThan(900)
    desk.fit(40 * SECOND, 30 * SECOND)
    expect(desk.toX(30 * SECOND)).toBeGreaterThanOrEqual(0)
    expect(desk.toX(40 * SECOND)).toBeLessThanOrEqual(1000)
  })

  it('marks a range whose ends never cross', async () => {
    const { desk } = await openDesk()
    desk.markRange('in', 5 * SECOND, 60 * SECOND)
    expect(desk.range).toEqual({ from: 5 * SECOND, to: 60 * SECOND })
    desk.markRange('out', 9 * SECOND, 60 * SECOND)
    desk.markRange('in', 20 * SECOND, 60 * SECOND)
    expect(desk.range).toEqual({ from: 20 * SECOND, to: 60 * SECOND })
    desk.markRange('out', 3 * SECOND, 60 * SECOND)
    expect(desk.range).toEqual({ from: 0, to: 3 * SECOND })
  })

  it('selects both halves of a pair, one only when they are taken apart, and forgets what is gone', async () => {
    const studio = await openDesk()
    const [picture, sound] = studio.pair(0, 30)
    const { desk, project } = studio
    desk.select([picture], project.document)
    expect(desk.selection).toEqual(new Set([picture, sound]))
    desk.toggle(sound, project.document!)
    expect(desk.selection.size).toBe(0)
    desk.linked = false
    desk.select([picture], project.document)
    expect(desk.selection).toEqual(new Set([picture]))
    project.perform({ type: 'remove', clipIds: [picture], closeUp: false, linked: false })
    desk.prune(project.document!)
    expect(desk.selection.size).toBe(0)
  })

  it('selects groups as one; clips, transitions and a track never together', async () => {
    const studio = await openDesk()
    const [first] = studio.pair(0, 30)
    const [second] = studio.pair(60, 30)
    const { desk, project } = studio
    project.perform({ type: 'group', clipIds: [first, second] })
    desk.select([first], project.document)
    expect(desk.selection.size).toBe(4)
    desk.selectTransitions(['a'])
    expect([desk.selection.size, desk.transitions.size]).toEqual([0, 1])
    desk.selectTrack('t')
    expect([desk.trackId, desk.transitions.size]).toEqual(['t', 0])
    desk.select([first], project.document)
    expect(desk.trackId).toBeNull()
  })
})

describe('the source in the viewer', () => {
  it('remembers marks and place of each source looked at', async () => {
    await openDesk()
    const source = useSource()
    source.open(HARBOUR.id, 7 * SECOND, 0)
    source.mark('in', 2 * SECOND)
    source.mark('out', 4 * SECOND)
    source.open(CARD.id, 0, 3 * SECOND)
    expect([source.from, source.to, source.startAt]).toEqual([null, null, 0])
    expect(source.parked).toBe(7 * SECOND)
    source.open(HARBOUR.id, 0, 0)
    expect([source.from, source.to, source.startAt]).toEqual([2 * SECOND, 4 * SECOND, 3 * SECOND])
    source.close(SECOND)
    expect(source.asset).toBeNull()
  })

  it('holds marks within the source, and lets a new one take the other away when they cross', async () => {
    await openDesk()
    const source = useSource()
    source.open(HARBOUR.id, 0, 0)
    source.mark('out', 99 * SECOND)
    expect(source.to).toBe(source.reel!.length)
    source.mark('out', 3 * SECOND)
    source.mark('in', 5 * SECOND)
    expect([source.from, source.to]).toEqual([5 * SECOND, null])
    source.mark('out', 2 * SECOND)
    expect([source.from, source.to]).toEqual([null, 2 * SECOND])
    source.mark('in', -4)
    expect(source.from).toBe(0)
  })
})
