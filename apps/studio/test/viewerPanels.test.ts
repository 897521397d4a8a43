import { describe, expect, it } from 'vitest'
import LevelMeter from '~/features/player/LevelMeter.vue'
import PositionField from '~/features/viewer/PositionField.vue'
import ViewerOverlay from '~/features/viewer/ViewerOverlay.vue'
import { plainTitle, planGenerated } from '~/features/titles/generated'
import { useTitles } from '~/features/titles/titlesStore'
import { openDesk } from './tools/desk'
import { dragOn, placed, pointer } from './tools/pointer'
import { CARD, SECOND } from './tools/server'

const frame = SECOND / 30

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
