import { describe, expect, it } from 'vitest'
import { flushPromises } from '@vue/test-utils'
import { isAnimated, type Clip } from '@dusk/timeline'
import KeyframePanel from '~/features/keyframes/KeyframePanel.vue'
import PendingImportList from '~/features/library/PendingImportList.vue'
import StoryboardPanel from '~/features/storyboard/StoryboardPanel.vue'
import ClipElements from '~/features/timeline/ClipElements.vue'
import TimelineToolbar from '~/features/timeline/TimelineToolbar.vue'
import TransitionMarks from '~/features/transitions/TransitionMarks.vue'
import LevelMeter from '~/features/player/LevelMeter.vue'
import PositionField from '~/features/viewer/PositionField.vue'
import ViewerOverlay from '~/features/viewer/ViewerOverlay.vue'
import { useGenerated } from '~/features/titles/useGenerated'
import { rowsOf } from '~/features/timeline/layout'
import { plainTitle, planGenerated } from '~/features/titles/generated'
import { useTitles } from '~/features/titles/titlesStore'
import { called, choose } from './tools/fields'
import { openDesk } from './tools/desk'
import { dragOn, escape, placed, pointer } from './tools/pointer'
import { CARD, SECOND } from './tools/server'

const frame = SECOND / 30

describe('keyframes under the timeline', () => {
  async function lanes() {
    const studio = await openDesk()
    studio.desk.pixelsPerSecond = 300
    const [id] = studio.pair(10, 60)
    const key = (at: number, value: number) => ({ at: at * frame, value, ease: 'both' })
    studio.project.perform({
      type: 'setParams',
      clipIds: [id],
      set: { opacity: { keys: [key(0, 100), key(20, 40)] }, rotation: { keys: [key(5, 0)] } } as never,
    })
    const clip = () => studio.project.document!.clips[id] as Clip
    const panel = studio.show(KeyframePanel, { clip: clip(), heads: 184, width: 1000 })
    const sync = () => panel.setProps({ clip: clip() })
    const keys = (name: string) => {
      const value = clip().params[name]
      return value !== undefined && isAnimated(value)
        ? value.keys.map((entry) => [entry.at / frame, entry.value])
        : value
    }
    const dots = (label: string) => panel.findAll(`[aria-label^="Keyframe of ${label}."]`)
    return { ...studio, panel, sync, keys, dots, clip, id }
  }

  it('lie where they are in time, and are dragged there; with Alt a copy goes', async () => {
    const { dots, keys, sync } = await lanes()
    expect(dots('Opacity').map((dot) => dot.attributes('style'))).toEqual([
      expect.stringContaining('left: 100px'),
      expect.stringContaining('left: 300px'),
    ])
    dragOn(dots('Opacity')[1]!.element, [
      [300, 10],
      [350, 10],
    ])
    expect(keys('opacity')).toEqual([
      [0, 100],
      [25, 40],
    ])
    await sync()
    dragOn(
      dots('Opacity')[1]!.element,
      [
        [350, 10],
        [450, 10],
      ],
      { altKey: true },
    )
    expect(keys('opacity')).toEqual([
      [0, 100],
      [25, 40],
      [35, 40],
    ])
    await sync()
    dragOn(
      dots('Opacity')[1]!.element,
      [
        [350, 10],
        [380, 10],
      ],
      {},
      false,
    )
    escape()
    expect(keys('opacity')).toEqual([
      [0, 100],
      [25, 40],
      [35, 40],
    ])
  })

  it('go by frames with the arrow keys, are gone to by Enter, and removed by Delete', async () => {
    const { dots, keys, sync, player, clip, project } = await lanes()
    const press = (at: number) => dragOn(dots('Opacity')[1]!.element, [[at, 10]])
    press(300)
    await dots('Opacity')[1]!.trigger('keydown', { key: 'ArrowRight' })
    expect(keys('opacity')).toEqual([
      [0, 100],
      [21, 40],
    ])
    await sync()
    await dots('Opacity')[1]!.trigger('keydown', { key: 'Enter' })
    expect(player.tick.value / frame).toBe(31)
    await dots('Opacity')[1]!.trigger('keydown', { key: 'Delete' })
    expect(keys('opacity')).toEqual([[0, 100]])
    expect(project.document!.clips[clip().id]).toBeDefined()
  })

  it('are selected together, moved, stretched, copied and pasted, also of several settings', async () => {
    const { panel, dots, keys, sync, player } = await lanes()
    dragOn(dots('Opacity')[0]!.element, [[100, 10]])
    dragOn(dots('Opacity')[1]!.element, [[300, 10]], { shiftKey: true })
    dragOn(dots('Turn')[0]!.element, [[150, 30]], { shiftKey: true })
    await sync()
    expect(panel.findAll('[aria-pressed="true"][aria-label^="Keyframe"]')).toHaveLength(3)
    // All go along when one of them is dragged, by ten frames.
    dragOn(dots('Opacity')[1]!.element, [
      [300, 10],
      [400, 10],
    ])
    await sync()
    expect([keys('opacity'), keys('rotation')]).toEqual([
      [
        [10, 100],
        [30, 40],
      ],
      [[15, 0]],
    ])
    // The right end of the span to half its length: what lies between goes along.
    const grip = panel.findAll('[title^="Drag to stretch"]')[1]!
    dragOn(grip.element, [
      [400, 5],
      [300, 5],
    ])
    await sync()
    expect(keys('opacity')).toEqual([
      [10, 100],
      [20, 40],
    ])
    expect((keys('rotation') as number[][])[0]![0]).toBeGreaterThan(11)
    expect((keys('rotation') as number[][])[0]![0]).toBeLessThan(15)
    await panel.trigger('keydown', { key: 'c', ctrlKey: true })
    player.seek(50 * frame)
    await panel.trigger('keydown', { key: 'v', ctrlKey: true })
    await sync()
    expect((keys('opacity') as number[][]).map(([at]) => at)).toEqual([10, 20, 40, 50])
    await panel.trigger('keydown', { key: 'Delete' })
    await sync()
    expect((keys('opacity') as number[][]).map(([at]) => at)).toEqual([10, 20])
  })

  it('stay under the pointer when one is dragged past another, and nothing is kept on Escape', async () => {
    const { dots, keys, sync } = await lanes()
    dragOn(dots('Opacity')[0]!.element, [
      [100, 10],
      [250, 10],
      [350, 10],
    ])
    await sync()
    expect(keys('opacity')).toEqual([
      [20, 40],
      [25, 100],
    ])
  })

  it('are set by a double click on a row, with the value there', async () => {
    const { panel, keys } = await lanes()
    const row = panel
      .findAll('[title^="Double-click to set a keyframe"]')
      .find((entry) => entry.html().includes('Keyframe of Opacity'))!
    row.element.dispatchEvent(new MouseEvent('dblclick', { clientX: 200, bubbles: true }))
    const set = keys('opacity') as [number, number][]
    expect(set.map(([at]) => at)).toEqual([0, 10, 20])
    expect(set[1]![1]).toBeCloseTo(70, 0)
  })

  it('are all removed, and the value at the playhead stays', async () => {
    const { panel, keys, player } = await lanes()
    player.seek(60 * frame)
    await called(panel, 'Remove all keyframes of Opacity').trigger('click')
    expect(keys('opacity')).toBe(40)
  })

  it('show the course of the chosen setting as a curve', async () => {
    const { panel } = await lanes()
    const course = () => panel.find('svg.touch-none path').attributes('d')!
    const rotation = course()
    const opacity = panel.findAll('button').find((entry) => entry.text() === 'Opacity')!
    await opacity.trigger('click')
    expect(opacity.attributes('aria-pressed')).toBe('true')
    // A single keyframe is a level line; two are a slope.
    const heights = (path: string) => new Set([...path.matchAll(/,([\d.]+)/g)].map((match) => match[1]))
    expect(heights(rotation).size).toBe(1)
    expect(heights(course()).size).toBeGreaterThan(10)
  })
})

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

describe('the viewer’s place and level', () => {
  it('is typed over, also in frames from here, and nonsense is said to be so', async () => {
    const studio = await openDesk()
    const field = studio.show(PositionField, { rate: { num: 30, den: 1 } })
    const input = field.find('input')
    const type = async (text: string) => {
      await input.trigger('focus')
      await input.setValue(text)
      await input.trigger('keydown', { key: 'Enter' })
      await input.trigger('blur')
    }
    await type('0:00:02:10')
    expect(studio.player.tick.value / frame).toBe(70)
    await type('+12')
    expect(studio.player.tick.value / frame).toBe(82)
    expect(input.element.value).toBe('0:00:02:22')
    await type('when it rains')
    expect(studio.said()).toContain('A place is typed as')
    expect(studio.player.tick.value / frame).toBe(82)
    await input.trigger('focus')
    await input.setValue('9:99')
    await input.trigger('keydown', { key: 'Escape' })
    expect(input.element.value).toBe('0:00:02:22')
  })

  it('is shown over 60 decibels, in words for those who don’t see the bars', async () => {
    const studio = await openDesk()
    const meter = studio.show(LevelMeter)
    studio.player.levels.value = [0.1, 1.2]
    await meter.vm.$nextTick()
    expect(meter.attributes('aria-valuenow')).toBe('0')
    const bars = meter.findAll('.h-full')
    expect(bars[0]!.attributes('style')).toMatch(/scaleX\(0\.66/)
    expect(bars[1]!.classes()).toContain('bg-rose')
    studio.player.levels.value = [0, 0.001]
    await meter.vm.$nextTick()
    expect(meter.attributes('aria-valuenow')).toBe('-60')
  })
})

describe('the picture in the viewer', () => {
  async function picture() {
    const studio = await openDesk()
    const [back] = studio.pair(0, 60)
    const front = crypto.randomUUID()
    studio.project.perform({
      type: 'place',
      mode: 'free',
      pieces: [
        {
          clipId: front,
          trackId: studio.track('Picture 2').id,
          assetId: CARD.id,
          start: 0,
          length: 60 * frame,
          source: 0,
          stream: null,
          link: null,
        },
      ],
    })
    studio.project.perform({ type: 'setParams', clipIds: [front], set: { size: 50 } })
    const overlay = studio.show(ViewerOverlay, { width: 960, height: 540, scale: 0.5, mode: 'place' })
    const surface = placed(overlay.find('[data-testid=viewer-overlay]').element, new DOMRect(0, 0, 960, 540))
    return { ...studio, overlay, surface, back, front }
  }

  it('selects what is seen under the pointer, in front first, and nothing beside it', async () => {
    const { surface, desk, front, back, project } = await picture()
    dragOn(surface, [[480, 270]])
    expect(desk.selection).toEqual(new Set([front]))
    dragOn(surface, [[60, 60]])
    expect(desk.selection).toContain(back)
    project.perform({ type: 'setParams', clipIds: [back], set: { size: 20 } })
    dragOn(surface, [[60, 60]])
    expect(desk.selection.size).toBe(0)
  })

  it('moves what is pressed in one go, and by arrow keys by one and ten', async () => {
    const { surface, overlay, front, project } = await picture()
    const at = () => project.document!.clips[front]!.params.position
    dragOn(
      surface,
      [
        [480, 270],
        [530, 270],
      ],
      { ctrlKey: true },
    )
    expect(at()).toEqual([100, 0])
    const frameElement = overlay.find('[data-testid=viewer-overlay]')
    await frameElement.trigger('keydown', { key: 'ArrowUp', shiftKey: true })
    await frameElement.trigger('keydown', { key: 'ArrowRight' })
    expect(at()).toEqual([101, -10])
  })

  it('does not move what is locked, and has no handles while it plays', async () => {
    const { surface, overlay, front, project, player, track } = await picture()
    dragOn(surface, [[480, 270]])
    await overlay.vm.$nextTick()
    expect(overlay.find('[aria-label="Turn it"]').exists()).toBe(true)
    project.perform({ type: 'setTrack', trackId: track('Picture 2').id, set: { locked: true } })
    dragOn(surface, [
      [480, 270],
      [580, 270],
    ])
    expect(project.document!.clips[front]!.params.position).toBeUndefined()
    player.playing.value = true
    await overlay.vm.$nextTick()
    expect(overlay.find('[aria-label="Turn it"]').exists()).toBe(false)
  })

  it('has other handles in each mode', async () => {
    const { surface, overlay } = await picture()
    dragOn(surface, [[480, 270]])
    await overlay.setProps({ mode: 'crop' })
    expect(
      overlay
        .findAll('[aria-label^="Crop the"]')
        .map((entry) => entry.attributes('aria-label'))
        .sort(),
    ).toEqual(['Crop the bottom', 'Crop the left', 'Crop the right', 'Crop the top'])
    expect(overlay.find('[aria-label="Turn it"]').exists()).toBe(false)
  })

  it('begins a title where the empty picture is double-clicked, and types in one that is there', async () => {
    const studio = await openDesk()
    const overlay = studio.show(
      ViewerOverlay,
      { width: 960, height: 540, scale: 0.5, mode: 'place' },
      { global: { stubs: { TitleCaret: true } } },
    )
    placed(overlay.find('[data-testid=viewer-overlay]').element, new DOMRect(0, 0, 960, 540))
    await overlay.find('[data-testid=viewer-overlay]').trigger('dblclick', { clientX: 720, clientY: 270 })
    const title = Object.values(studio.project.document!.clips).find((clip) => clip.kind === 'title')!
    expect(title.params.position).toEqual([480, 0])
    expect(useTitles().editing).toBe(title.id)
    studio.project.perform({ type: 'setTitle', clipIds: [title.id], set: { text: 'Dusk' } })
    useTitles().editing = null
    studio.desk.select([title.id], studio.project.document)
    await overlay.vm.$nextTick()
    await overlay.find('[data-testid=viewer-overlay]').trigger('keydown', { key: 'Enter' })
    expect(useTitles().editing).toBe(title.id)
  })
})

describe('handles of what is small or not yet measured', () => {
  const handles = '[aria-label^="Make it"]'

  it('leave the middle of a small picture free, so that it can be moved', async () => {
    const studio = await openDesk()
    const [id] = studio.pair(0, 60)
    studio.project.perform({ type: 'setParams', clipIds: [id], set: { size: 1 } })
    studio.desk.select([id], studio.project.document)
    const overlay = studio.show(ViewerOverlay, { width: 960, height: 540, scale: 0.5, mode: 'place' })
    const places = overlay.findAll(handles).map((handle) => {
      const { left, top } = (handle.element as HTMLElement).style
      return Math.hypot(Number.parseFloat(left) - 480, Number.parseFloat(top) - 270)
    })
    expect(places.length).toBeGreaterThan(5)
    for (const place of places) expect(place).toBeCloseTo(30, 0)
  })

  it('wait for the box of the words as they are, and ask for the last of many', async () => {
    const studio = await openDesk()
    const open: (() => void)[] = []
    const answer = studio.player.titleLayout
    studio.player.titleLayout = () => new Promise((resolve) => open.push(() => resolve(answer())))
    const overlay = studio.show(
      ViewerOverlay,
      { width: 960, height: 540, scale: 0.5, mode: 'place' },
      { global: { stubs: { TitleCaret: true } } },
    )
    placed(overlay.find('[data-testid=viewer-overlay]').element, new DOMRect(0, 0, 960, 540))
    await overlay.find('[data-testid=viewer-overlay]').trigger('dblclick', { clientX: 480, clientY: 270 })
    const id = useTitles().editing!
    useTitles().editing = null
    const settle = () => new Promise((resolve) => setTimeout(resolve))
    for (const text of ['L', 'La', 'Lantern night']) {
      studio.project.perform({ type: 'setTitle', clipIds: [id], set: { text } })
      await settle()
    }
    studio.desk.select([id], studio.project.document)
    await settle()
    expect(open.length).toBe(1)
    expect(overlay.find(handles).exists()).toBe(false)
    open[0]!()
    await settle()
    // The first answer was for the first letter; one more question, for all of them, is enough.
    expect(overlay.find(handles).exists()).toBe(false)
    expect(open.length).toBe(2)
    open[1]!()
    await settle()
    expect(open.length).toBe(2)
    expect(overlay.find(handles).exists()).toBe(true)
  })
})

describe('a title without words', () => {
  it('is taken hold of in its middle', async () => {
    const studio = await openDesk()
    const answer = await studio.player.titleLayout()
    const measure = { ...answer.measure, left: 960, top: 500, width: 0, height: 80 }
    studio.player.titleLayout = () => Promise.resolve({ ...answer, measure })
    const overlay = studio.show(ViewerOverlay, { width: 960, height: 540, scale: 0.5, mode: 'place' })
    const frame = overlay.find('[data-testid=viewer-overlay]')
    placed(frame.element, new DOMRect(0, 0, 960, 540))
    const { reelId, document: now } = studio.project
    const { command } = planGenerated(now!, reelId, plainTitle({ width: 1920, height: 1080 }), 0, SECOND)
    studio.project.perform(command)
    const { id } = Object.values(studio.project.document!.clips).find(({ kind }) => kind === 'title')!
    await new Promise((resolve) => setTimeout(resolve))
    for (const clientX of [476, 480, 484]) {
      studio.desk.select([], null)
      frame.element.dispatchEvent(pointer('pointerdown', [clientX, 270]))
      document.body.dispatchEvent(pointer('pointerup', [clientX, 270]))
      expect([...studio.desk.selection], `pressed at ${clientX}`).toEqual([id])
    }
  })
})

describe('a title dragged before its words are measured', () => {
  it.each(['never', 'meanwhile'])('sticks by its middle, and by its own box once that is there: %s', async (when) => {
    const studio = await openDesk()
    const answer = await studio.player.titleLayout()
    const box = (left: number, width: number) => ({
      ...answer,
      measure: { ...answer.measure, left, top: 500, width, height: 80 },
    })
    // The empty title was measured; the answer for its words is on its way.
    let settle = () => {}
    studio.player.titleLayout = () => Promise.resolve(box(960, 0))
    const overlay = studio.show(
      ViewerOverlay,
      { width: 960, height: 540, scale: 0.5, mode: 'place' },
      { global: { stubs: { TitleCaret: true } } },
    )
    const frame = overlay.find('[data-testid=viewer-overlay]')
    placed(frame.element, new DOMRect(0, 0, 960, 540))
    await frame.trigger('dblclick', { clientX: 480, clientY: 270 })
    const id = useTitles().editing!
    await new Promise((resolve) => setTimeout(resolve))
    studio.player.titleLayout = () => new Promise((resolve) => (settle = () => resolve(box(560, 800))))
    studio.project.perform({ type: 'setTitle', clipIds: [id], set: { text: 'Lantern night' } })
    useTitles().editing = null
    await new Promise((resolve) => setTimeout(resolve))
    frame.element.dispatchEvent(pointer('pointerdown', [480, 270]))
    document.body.dispatchEvent(pointer('pointermove', [400, 300]))
    if (when === 'meanwhile') settle()
    await new Promise((resolve) => setTimeout(resolve))
    // Three screen pixels beside the left third: the nearest line for the middle, not for an edge of no words.
    document.body.dispatchEvent(pointer('pointermove', [323, 330]))
    document.body.dispatchEvent(pointer('pointerup', [323, 330]))
    const [x] = (studio.project.document!.clips[id]!.params.position as [number, number]) ?? [0]
    expect(x).toBeCloseTo(640 - 960, 1)
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
