import { describe, expect, it } from 'vitest'
import { isAnimated, type MediaClip } from '@dusk/timeline'
import DetailsPanel from '~/features/desk/DetailsPanel.vue'
import { button, called, choose, typeNumber, typeText } from './tools/fields'
import { openDesk } from './tools/desk'
import { CARD, SECOND } from './tools/server'

const frame = SECOND / 30

describe('details of a clip', () => {
  async function clipDesk() {
    const studio = await openDesk()
    const [picture, sound] = studio.pair(30, 60, 30)
    studio.desk.select([picture], studio.project.document)
    const panel = studio.show(DetailsPanel)
    return { ...studio, picture, sound, panel, clip: () => studio.project.document!.clips[picture] as MediaClip }
  }

  it('names a clip, and forgets the name when it is emptied', async () => {
    const { panel, clip } = await clipDesk()
    expect((called(panel, 'Name of the clip').element as HTMLInputElement).value).toBe('harbour-wide.mp4')
    await typeText(panel, 'Name of the clip', '  Boats at dusk ')
    expect(clip().name).toBe('Boats at dusk')
    await typeText(panel, 'Name of the clip', '')
    expect(clip().name).toBeNull()
  })

  it('moves and trims by typed times, and says how they are typed', async () => {
    const { panel, frames, said } = await clipDesk()
    await typeText(panel, 'Begins', '2s')
    expect(frames('Picture 1')).toEqual([[60, 60]])
    expect(frames('Effects')).toEqual([[60, 60]])
    await typeText(panel, 'Length', '+15')
    expect(frames('Picture 1')).toEqual([[60, 75]])
    await typeText(panel, 'Ends', '0:00:04:00')
    expect(frames('Picture 1')).toEqual([[60, 60]])
    await typeText(panel, 'Length', 'soon')
    expect(said()).toContain('A time is typed as')
    expect((called(panel, 'Length').element as HTMLInputElement).value).toBe('2.00 s')
    // Far more than a document holds: said, and what was there stands again.
    for (const field of ['Length', 'Begins', 'Ends']) {
      const before = (called(panel, field).element as HTMLInputElement).value
      await typeText(panel, field, '9'.repeat(40))
      expect(said()).toContain('can’t be kept')
      expect((called(panel, field).element as HTMLInputElement).value).toBe(before)
      expect(frames('Picture 1')).toEqual([[60, 60]])
    }
    expect(frames('Picture 1')).toEqual([[60, 60]])
  })

  it('says by how much a pair is apart, and puts it back', async () => {
    const { panel, project, sound, desk, picture } = await clipDesk()
    expect(panel.text()).not.toContain('Put back in sync')
    project.perform({ type: 'move', clipIds: [sound], by: 6 * frame, mode: 'free', linked: false })
    await panel.vm.$nextTick()
    expect(panel.text()).toMatch(/0\.20 s (late|early)/)
    await button(panel, 'Put back in sync').trigger('click')
    expect(project.document!.clips[sound]!.start).toBe(project.document!.clips[picture]!.start)
    expect(desk.selection.size).toBe(2)
  })

  it('places by numbers, with units and sums, and goes back by a double click', async () => {
    const { panel, clip } = await clipDesk()
    await typeNumber(panel, 'Size', '100/2 %')
    expect(clip().params.size).toBe(50)
    await typeNumber(panel, 'Position →', '1920/4')
    expect(clip().params.position).toEqual([480, 0])
    called(panel, 'Size').element.closest('label')!.querySelector('span')!.dispatchEvent(new MouseEvent('dblclick'))
    await panel.vm.$nextTick()
    expect(clip().params.size).toBeUndefined()
  })

  it('sets keyframes at the playhead, in clip time, also beyond the clip’s ends', async () => {
    const { panel, clip, player } = await clipDesk()
    player.seek(40 * frame)
    await panel.vm.$nextTick()
    await called(panel, 'Set a keyframe of Opacity').trigger('click')
    player.seek(200 * frame)
    await panel.vm.$nextTick()
    await typeNumber(panel, 'Opacity', '20')
    const { opacity } = clip().params
    expect(isAnimated(opacity!) && opacity.keys.map(({ at, value }) => [at / frame, value])).toEqual([
      [10, 100],
      [59, 20],
    ])
  })

  it('resets a group of settings as a whole, and marks it while something in it is changed', async () => {
    const { panel, clip } = await clipDesk()
    expect(panel.find('[aria-label="Reset Place"]').exists()).toBe(false)
    await typeNumber(panel, 'Size', '60')
    await typeNumber(panel, 'Turn', '12')
    await called(panel, 'Reset Place').trigger('click')
    expect(clip().params).toEqual({})
  })

  it('sets the level of its sound, its fitting, label and note', async () => {
    const { panel, clip, project, sound } = await clipDesk()
    await typeNumber(panel, 'Gain', '-6.5')
    expect(project.document!.clips[sound]!.gain).toBe(-6.5)
    expect(clip().gain).toBe(0)
    await choose(panel, 'Fitting', 'Fill, edges cut')
    expect(clip().fit).toBe('fill')
    await called(panel, 'Label moss').trigger('click')
    await typeText(panel, 'Note on the clip', 'the good take')
    for (const entry of [clip(), project.document!.clips[sound]!])
      expect(entry).toMatchObject({ label: 'moss', note: 'the good take' })
  })

  it('goes for every clip that is selected', async () => {
    const { panel, project, desk, pair } = await clipDesk()
    const [other] = pair(120, 30)
    desk.select([...desk.selection, other], project.document)
    await panel.vm.$nextTick()
    expect(panel.text()).toContain('4 clips')
    await typeNumber(panel, 'Size', '40')
    expect(
      Object.values(project.document!.clips)
        .filter((clip) => clip.stream === null)
        .map((clip) => clip.params.size),
    ).toEqual([40, 40])
  })

  it('moves a still by a start and an end view', async () => {
    const studio = await openDesk()
    studio.project.perform({
      type: 'place',
      mode: 'free',
      pieces: [
        {
          clipId: crypto.randomUUID(),
          trackId: studio.track('Picture 1').id,
          assetId: CARD.id,
          start: 0,
          length: 90 * frame,
          source: 0,
          stream: null,
          link: null,
        },
      ],
    })
    const clip = () => studio.on('Picture 1')[0]!
    studio.desk.select([clip().id], studio.project.document)
    const panel = studio.show(DetailsPanel)
    await button(panel, 'Pan and zoom').trigger('click')
    expect(button(panel, 'turn round').attributes('disabled')).toBeDefined()
    const chip = panel
      .findAll('button')
      .find((entry) => entry.classes().includes('rounded-full') && entry.text() === 'Drift in')!
    await chip.trigger('click')
    const sizes = () => {
      const { size } = clip().params
      return isAnimated(size!) ? size.keys.map((key) => key.value as number) : []
    }
    const [from, to] = sizes() as [number, number]
    expect(to).toBeGreaterThan(from)
    await button(panel, 'turn round').trigger('click')
    expect(sizes()).toEqual([to, from])
  })

  it('lays selected pictures out as a split screen; one with more cells has empty ones to drop on', async () => {
    const { panel, project, desk, pair, picture, said } = await clipDesk()
    const [other] = pair(30, 60, 90, 'Picture 2', 'Music')
    desk.select([picture, other], project.document)
    await panel.vm.$nextTick()
    const halves = panel
      .findAll('button')
      .filter((entry) => entry.attributes('aria-label')?.startsWith('Split screen:'))
    expect(halves.length).toBeGreaterThan(4)
    await halves[0]!.trigger('click')
    const placed = [picture, other].map((id) => (project.document!.clips[id] as MediaClip).params)
    expect(placed.every((params) => params.position !== undefined || params.cropLeft !== undefined)).toBe(true)
    const nine = halves.at(-1)!
    await nine.trigger('click')
    expect(said()).toContain('Drop footage on the empty cells')
  })

  it('refuses a split screen of pictures that are never seen together, in words', async () => {
    const { panel, project, desk, pair, picture, said } = await clipDesk()
    const [other] = pair(200, 60)
    desk.select([picture, other], project.document)
    await panel.vm.$nextTick()
    await panel
      .findAll('button')
      .find((entry) => entry.attributes('aria-label')?.startsWith('Split screen:'))!
      .trigger('click')
    expect(said()).toContain('on tracks above each other')
    expect((project.document!.clips[other] as MediaClip).params).toEqual({})
  })
})

describe('details of a transition', () => {
  async function cutDesk() {
    const studio = await openDesk()
    const [left] = studio.pair(0, 60, 60)
    const [right] = studio.pair(60, 60, 180)
    studio.pair(120, 60, 30)
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
    studio.desk.selectTransitions([id])
    const panel = studio.show(DetailsPanel)
    return { ...studio, id, panel, join: () => studio.project.document!.transitions[id]! }
  }

  it('is as long as is typed, and lies where it is said to', async () => {
    const { panel, join, said } = await cutDesk()
    await typeText(panel, 'Length', '1s')
    expect([join().before, join().after]).toEqual([15 * frame, 15 * frame])
    await choose(panel, 'Lies', 'Before the cut')
    expect([join().before, join().after]).toEqual([30 * frame, 0])
    await choose(panel, 'Lies', 'After the cut')
    expect([join().before, join().after]).toEqual([0, 30 * frame])
    await typeText(panel, 'Length', 'long')
    expect(said()).toContain('A length is typed as')
  })

  it('says when it had to be shortened, and can hold the edge frames instead', async () => {
    const { panel, join, said } = await cutDesk()
    await typeText(panel, 'Length', '20s')
    expect(said()).toContain('no more hidden footage')
    const shortened = join().before + join().after
    await choose(panel, 'Too little', 'Hold the edge frame')
    await typeText(panel, 'Length', '3.5s')
    expect(join().before + join().after).toBeGreaterThanOrEqual(Math.min(shortened, 105 * frame))
    expect(join().missing).toBe('hold')
  })

  it('is put on every other cut, and removed', async () => {
    const { panel, project, desk } = await cutDesk()
    await button(panel, 'Put on every cut').trigger('click')
    expect(Object.values(project.document!.transitions)).toHaveLength(2)
    await button(panel, 'Remove').trigger('click')
    expect(Object.values(project.document!.transitions)).toHaveLength(1)
    expect(desk.transitions.size).toBe(0)
    expect(panel.text()).toContain('reel')
  })
})
