import { describe, expect, it } from 'vitest'
import { flushPromises } from '@vue/test-utils'
import PendingImportList from '~/features/library/PendingImportList.vue'
import StoryboardPanel from '~/features/storyboard/StoryboardPanel.vue'
import ClipElements from '~/features/timeline/ClipElements.vue'
import TimelineToolbar from '~/features/timeline/TimelineToolbar.vue'
import TransitionMarks from '~/features/transitions/TransitionMarks.vue'
import { useGenerated } from '~/features/titles/useGenerated'
import { rowsOf } from '~/features/timeline/layout'
import { called, choose } from './tools/fields'
import { openDesk } from './tools/desk'
import { dragOn, placed } from './tools/pointer'
import { SECOND } from './tools/server'

const frame = SECOND / 30

describe('the storyboard', () => {
  const stubs = { global: { stubs: { ShotPicture: true } } }

  it('shows each shot of a track in order, and what is missing between them', async () => {
    const studio = await openDesk()
    const empty = studio.show(StoryboardPanel, {}, stubs)
    expect(empty.text()).toContain('No shots on this track yet')
    studio.pair(0, 30)
    studio.pair(45, 60)
    studio.pair(0, 15, 0, 'Picture 2', 'Music')
    const board = studio.show(StoryboardPanel, {}, stubs)
    const cards = board.findAll('[data-card]')
    expect(cards.map((card) => card.text())).toEqual([
      expect.stringContaining('1.00 s'),
      expect.stringContaining('2.00 s'),
    ])
    expect(board.text()).toContain('0.50 s of nothing before it')
    await choose(board, 'Track whose shots are shown', 'Picture 2')
    expect(board.findAll('[data-card]')).toHaveLength(1)
  })

  it('shows transitions between cards that touch, puts the standard one there and selects it', async () => {
    const studio = await openDesk()
    studio.pair(0, 60, 60)
    studio.pair(60, 60, 180)
    studio.pair(150, 30, 240)
    const board = studio.show(StoryboardPanel, {}, stubs)
    const cuts = () => board.findAll('button[aria-label]')
    const places = () => cuts().map((entry) => entry.attributes('aria-label'))
    // Before the third there is nothing: no cut, no transition.
    expect(places()).toEqual(['Put a transition here: Dissolve'])
    await cuts()[0]!.trigger('click')
    const [made] = Object.values(studio.project.document!.transitions)
    expect([made!.kind, made!.leftId, made!.rightId]).toEqual([
      'dissolve',
      studio.on('Picture 1')[0]!.id,
      studio.on('Picture 1')[1]!.id,
    ])
    expect(places()).toEqual(['Dissolve, 1.00 s'])
    studio.desk.selectTransitions([])
    await cuts()[0]!.trigger('click')
    expect([...studio.desk.transitions]).toEqual([made!.id])
    expect(Object.keys(studio.project.document!.transitions)).toHaveLength(1)
  })

  it('puts shots elsewhere with Alt and an arrow, in the same document', async () => {
    const studio = await openDesk()
    studio.pair(0, 30, 10)
    studio.pair(30, 60, 100)
    const board = studio.show(StoryboardPanel, {}, stubs)
    await board.findAll('[data-card]')[0]!.trigger('keydown', { key: 'ArrowLeft', altKey: true })
    expect(studio.frames('Picture 1')).toEqual([
      [0, 30],
      [30, 60],
    ])
    await board.findAll('[data-card]')[0]!.trigger('keydown', { key: 'ArrowRight', altKey: true })
    expect(studio.frames('Picture 1')).toEqual([
      [0, 60],
      [60, 30],
    ])
    expect(studio.frames('Effects')).toEqual([
      [0, 60],
      [60, 30],
    ])
    await board.findAll('[data-card]')[1]!.trigger('keydown', { key: 'Enter' })
    expect(studio.player.tick.value / frame).toBe(60)
    expect(studio.desk.selection).toContain(studio.on('Picture 1')[1]!.id)
  })
})

describe('files on their way in', () => {
  it('say how far they are, and why one could not be read; it is taken off the list', async () => {
    const studio = await openDesk()
    studio.project.pendingImports = [
      { id: 'a1', fileName: 'notes.txt', state: 'failed', message: 'notes.txt is not video, sound or a picture.' },
    ] as never
    const sending = [
      {
        id: 's1',
        projectId: studio.project.id,
        fileName: 'harbour.mp4',
        sent: 5e6,
        size: 2e7,
        state: 'sending',
        message: null,
      },
      {
        id: 's2',
        projectId: studio.project.id,
        fileName: 'boats.mp4',
        sent: 0,
        size: 2e7,
        state: 'waiting',
        message: null,
      },
    ]
    const list = studio.show(PendingImportList, { sending })
    expect(list.text()).toMatch(/5(\.0)? MB of 20(\.0)? MB/)
    expect(list.text()).toContain('connection lost, going on soon')
    expect(list.text()).toContain('notes.txt is not video')
    studio.server.answers.set('DELETE /assets/a1', {})
    await called(list, 'Take notes.txt off the list').trigger('click')
    await flushPromises()
    expect(studio.server.calls.some(({ method, path }) => method === 'DELETE' && path === '/assets/a1')).toBe(true)
  })
})

describe('the tools of the timeline', () => {
  it('can be used when there is something to use them on', async () => {
    const studio = await openDesk()
    const bar = studio.show(TimelineToolbar)
    expect(called(bar, 'Remove').attributes('disabled')).toBeDefined()
    const [id] = studio.pair(0, 60)
    studio.player.seek(30 * frame)
    await called(bar, 'Split').trigger('click')
    expect(studio.frames('Picture 1')).toEqual([
      [0, 30],
      [30, 30],
    ])
    studio.desk.select([id], studio.project.document)
    await bar.vm.$nextTick()
    await called(bar, 'Close up').trigger('click')
    expect(studio.frames('Picture 1')).toEqual([[0, 30]])
    // With a range marked and nothing selected, the range is cut out.
    studio.desk.range = { from: 10 * frame, to: 20 * frame }
    await bar.vm.$nextTick()
    await called(bar, 'Close up').trigger('click')
    expect(studio.frames('Picture 1')).toEqual([
      [0, 10],
      [10, 10],
    ])
  })
})

describe('clips for those who don’t see them', () => {
  it('are named with track, place and length; only those in sight are there', async () => {
    const studio = await openDesk()
    studio.desk.pixelsPerSecond = 30
    const [id] = studio.pair(30, 60)
    studio.pair(3000, 60)
    const rows = rowsOf(studio.project.document!, studio.project.reelId)
    const lanes = new Map(rows.map((row) => [row.track.id, studio.on(row.track.name)]))
    const elements = studio.show(ClipElements, { rows, lanes, changed: new Map(), width: 800, height: 400 })
    const names = elements.findAll('[data-clip]').map((entry) => entry.attributes('aria-label'))
    expect(names).toEqual([
      'harbour-wide.mp4 on Picture 1, from 0:00:01:00, 2.00 s',
      'harbour-wide.mp4 on Effects, from 0:00:01:00, 2.00 s',
    ])
    const first = elements.find(`[data-clip="${id}"]`)
    await first.trigger('keydown', { key: 'Enter' })
    expect(studio.desk.selection).toContain(id)
    expect(first.attributes('aria-pressed')).toBe('true')
    await first.trigger('keydown', { key: 'F10', shiftKey: true })
    expect(elements.emitted('menu')).toHaveLength(1)
  })
})

describe('transitions on the timeline', () => {
  async function marks() {
    const studio = await openDesk()
    studio.desk.pixelsPerSecond = 300
    const [left] = studio.pair(0, 60, 60)
    const [right] = studio.pair(60, 60, 180)
    const id = crypto.randomUUID()
    studio.project.perform({
      type: 'addTransitions',
      transitions: [
        {
          id,
          leftId: left,
          rightId: right,
          before: 10 * frame,
          after: 10 * frame,
          kind: 'dissolve',
          settings: {},
          missing: 'shorten',
        },
      ],
    })
    const rows = rowsOf(studio.project.document!, studio.project.reelId)
    const wrapper = studio.show(TransitionMarks, { rows, width: 2000, height: 400 })
    const mark = wrapper.find('[aria-label^="Dissolve"]').element
    // Ten pixels are a frame: the mark reaches from 500 to 700.
    placed(mark, new DOMRect(500, 0, 200, 40))
    const join = () => studio.project.document!.transitions[id]!
    return { ...studio, id, mark, wrapper, sides: () => [join().before / frame, join().after / frame] }
  }

  it('are selected by a press, and grow on both sides when an end is dragged; with Alt on one', async () => {
    const { mark, sides, desk, id, wrapper } = await marks()
    dragOn(mark, [
      [698, 10],
      [748, 10],
    ])
    expect(desk.transitions).toEqual(new Set([id]))
    expect(sides()).toEqual([15, 15])
    await wrapper.vm.$nextTick()
    placed(mark, new DOMRect(450, 0, 300, 40))
    dragOn(
      mark,
      [
        [452, 10],
        [502, 10],
      ],
      { altKey: true },
    )
    expect(sides()).toEqual([10, 15])
  })

  it('are moved over their cut, and keep their length', async () => {
    const { mark, sides } = await marks()
    dragOn(mark, [
      [600, 10],
      [650, 10],
    ])
    expect(sides()).toEqual([5, 15])
  })
})

describe('putting titles and made pictures in', () => {
  it('goes to the moment at which words have come, and only when they would not be seen', async () => {
    const studio = await openDesk()
    const { put } = studio.within(useGenerated)
    studio.player.seek(30 * frame)
    const shape = put({ kind: 'generator', generator: 'plain', settings: {}, params: {} } as never, 2 * SECOND)!
    expect(studio.project.document!.clips[shape]!.start).toBe(30 * frame)
    expect(studio.player.tick.value).toBe(30 * frame)
    const later = put(
      { kind: 'generator', generator: 'plain', settings: {}, params: {} } as never,
      2 * SECOND,
      300 * frame,
    )!
    expect(studio.project.document!.clips[later]!.start).toBe(300 * frame)
    expect(studio.player.tick.value).toBe(300 * frame)
    expect(studio.desk.selection).toEqual(new Set([later]))
  })
})
