import { describe, expect, it, vi } from 'vitest'
import { computed, defineComponent, h, nextTick, ref } from 'vue'
import { ALL_FEATURES } from '~/features'
import DeskDrawer from '~/features/desk/DeskDrawer.vue'
import DetailsPanel from '~/features/desk/DetailsPanel.vue'
import SideRail from '~/features/desk/SideRail.vue'
import { actionsOf, defineFeature, useActionList } from '~/features/registry/feature'
import { useDeskKeys } from '~/features/shortcuts/useDeskKeys'
import { useShortcuts } from '~/features/shortcuts/shortcutsStore'
import TimelineMenu from '~/features/timeline/TimelineMenu.vue'
import { useDesk } from '~/features/timeline/deskStore'
import { rowsOf } from '~/features/timeline/layout'
import { useDragSession } from '~/features/timeline/useDragSession'
import { useTimelineDrop } from '~/features/timeline/useTimelineDrop'
import { openDesk } from './tools/desk'
import { SECOND } from './tools/server'

/** The last thing that takes drops, as the browser would tell it of them. */
type Told = { source: { data: Record<string, unknown> }; location: { current: { input: Record<string, unknown> } } }
const target = vi.hoisted(() => ({
  now: null as null | Record<'canDrop' | 'onDrag' | 'onDrop', (told: Told) => unknown>,
}))
vi.mock('@atlaskit/pragmatic-drag-and-drop/element/adapter', async (original) => ({
  ...(await original<object>()),
  dropTargetForElements: (given: NonNullable<typeof target.now>) => {
    target.now = given
    return () => {}
  },
}))

/** A feature as somebody would add it: a folder of its own, and a line in the list of features. */
function tides() {
  const rang: string[] = []
  const Drawer = defineComponent(() => () => h('section', { 'aria-label': 'Tides' }, 'High water at nine'))
  const Section = defineComponent({
    props: { clip: { type: Object, required: true }, time: { type: Number, required: true } },
    setup: (props) => () => h('p', { class: 'tides' }, `Tide for ${props.clip.id} at ${props.time}`),
  })
  const feature = defineFeature({
    id: 'tides',
    drawer: { id: 'tides', label: 'Tides', icon: defineComponent(() => () => h('i')), component: Drawer, order: 15 },
    clipSections: [
      {
        order: 5,
        component: Section,
        props: ({ pictures: [clip], time }) => (clip ? { clip, time } : null),
      },
    ],
    keys: { 'tides.ring': ['Shift F9'] },
    useActions() {
      const desk = useDesk()
      return actionsOf('View', [
        ['tides.open', 'Tides', () => desk.toggleDrawer('tides')],
        ['tides.ring', 'Ring the bell', () => rang.push('key')],
      ])
    },
    useMenu: () => (place) => [
      { order: 10, items: [{ label: `Ring at ${place.tick}`, run: () => rang.push('menu') }] },
    ],
    useDrops: () => ({
      tide: {
        follow: ({ start, track }) => ({
          ghosts: [{ trackId: track!.id, start: start(SECOND), length: SECOND }],
          words: 'a tide',
          refused: false,
        }),
        drop: ({ track }) => rang.push(`drop on ${track!.name}`),
      },
    }),
  })
  return { feature, rang }
}

describe('a feature that is added', () => {
  it('has its drawer on the rail, where its order puts it', async () => {
    const { feature } = tides()
    const studio = await openDesk([], [...ALL_FEATURES, feature])
    const rail = studio.show(SideRail)
    const labels = rail.findAll('button').map((button) => button.text())
    expect(labels.slice(0, 3)).toEqual(['Footage', 'Tides', 'Stock'])
    const drawer = studio.show(DeskDrawer, {}, { global: { stubs: { FootageDrawer: true } } })
    await rail.findAll('button')[1]!.trigger('click')
    expect(drawer.text()).toBe('High water at nine')
    await rail.findAll('button')[1]!.trigger('click')
    expect(studio.desk.drawer).toBeNull()
  })

  it('has its actions in the list of shortcuts, and a key calls them', async () => {
    const { feature, rang } = tides()
    const studio = await openDesk([], [...ALL_FEATURES, feature])
    expect(studio.within(useActionList).map((action) => action.id)).toContain('tides.ring')
    studio.within(useDeskKeys)
    document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'F9', code: 'F9', shiftKey: true, bubbles: true }))
    expect(rang).toEqual(['key'])
    expect(useShortcuts().keyOf('tides.ring')).toBe('Shift F9')
  })

  it('creeps while the key that pauses and one that plays are both held', async () => {
    const studio = await openDesk()
    studio.pair(0, 60)
    studio.within(useDeskKeys)
    const frame = SECOND / 30
    const key = (type: 'keydown' | 'keyup', code: string, repeat = false) =>
      document.body.dispatchEvent(new KeyboardEvent(type, { key: code[3]!.toLowerCase(), code, repeat, bubbles: true }))
    vi.useFakeTimers()
    try {
      studio.player.seek(10 * frame)
      key('keydown', 'KeyK')
      key('keydown', 'KeyL')
      for (let i = 0; i < 30; i++) key('keydown', 'KeyL', true)
      vi.advanceTimersByTime(1000)
      expect(studio.player.tick.value / frame).toBe(19)
      expect(studio.player.playing.value).toBe(false)
      key('keyup', 'KeyL')
      key('keydown', 'KeyJ')
      vi.advanceTimersByTime(500)
      expect(studio.player.tick.value / frame).toBe(14)
      key('keyup', 'KeyK')
      vi.advanceTimersByTime(1000)
      expect(studio.player.tick.value / frame).toBe(14)
      key('keyup', 'KeyJ')
      // Alone it plays, as ever.
      key('keydown', 'KeyL')
      expect(studio.player.playing.value).toBe(true)
    } finally {
      vi.useRealTimers()
    }
  })

  it('has its part in the details of clips and its items in their menu', async () => {
    const { feature, rang } = tides()
    const studio = await openDesk([], [...ALL_FEATURES, feature])
    const [picture] = studio.pair(0, 60)
    studio.desk.select([picture], studio.project.document)
    studio.player.seek(SECOND)
    const details = studio.show(DetailsPanel)
    await nextTick()
    expect(details.get('.tides').text()).toBe(`Tide for ${picture} at ${SECOND}`)
    const clip = studio.project.document!.clips[picture]!
    const place = { x: 0, y: 0, clip, trackId: clip.trackId, tick: 7 }
    studio.show(TimelineMenu, { place })
    const items = [...document.querySelectorAll<HTMLElement>('[role="menuitem"]')]
    items.find((entry) => entry.textContent!.trim() === 'Ring at 7')!.click()
    expect(rang).toEqual(['menu'])
  })

  it('is asked what its things do when they are dropped', async () => {
    const { feature, rang } = tides()
    const studio = await openDesk([], [...ALL_FEATURES, feature])
    const { session, row } = studio.within(() => {
      const body = ref(document.body)
      const rows = computed(() => rowsOf(studio.project.document!, studio.project.reelId))
      const session = useDragSession(body)
      useTimelineDrop(body, rows, session)
      return { session, row: rows.value.find((entry) => entry.track.name === 'Picture 1')! }
    })
    const x = studio.desk.toX(2 * SECOND)
    const input = { clientX: x, clientY: row.top + row.height / 2 - studio.desk.scrollY, altKey: false, ctrlKey: false }
    const told = { source: { data: { kind: 'tide' } }, location: { current: { input } } }
    expect(target.now!.canDrop(told)).toBe(true)
    expect(target.now!.canDrop({ ...told, source: { data: { kind: 'ebb' } } })).toBe(false)
    target.now!.onDrag(told)
    expect(session.ghosts.value).toEqual([{ trackId: row.track.id, start: 2 * SECOND, length: SECOND }])
    expect(session.label.value?.words).toBe('a tide')
    target.now!.onDrop(told)
    expect(rang).toEqual(['drop on Picture 1'])
    expect(session.ghosts.value).toEqual([])
  })
})

describe('the features there are', () => {
  it('have ids, drawers and kinds of drops of their own', async () => {
    const ids = ALL_FEATURES.map((feature) => feature.id)
    expect(new Set(ids).size).toBe(ids.length)
    const drawers = ALL_FEATURES.flatMap((feature) => feature.drawer?.id ?? [])
    expect(new Set(drawers).size).toBe(drawers.length)
    const studio = await openDesk()
    const kinds = studio.within(() => ALL_FEATURES.flatMap((feature) => Object.keys(feature.useDrops?.() ?? {})))
    expect(new Set(kinds).size).toBe(kinds.length)
  })
})
