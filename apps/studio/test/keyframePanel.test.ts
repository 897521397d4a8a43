import { describe, expect, it } from 'vitest'
import { isAnimated, type Clip } from '@dusk/timeline'
import KeyframePanel from '~/features/keyframes/KeyframePanel.vue'
import { called } from './tools/fields'
import { openDesk } from './tools/desk'
import { dragOn, escape } from './tools/pointer'
import { SECOND } from './tools/server'

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
