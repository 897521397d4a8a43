import { describe, expect, it, vi } from 'vitest'
import { isAnimated, type GeneratorClip, type MediaClip, type TitleClip } from '@dusk/timeline'
import MissingSources from '~/features/library/MissingSources.vue'
import { missingIn, missingWords } from '~/features/library/missingSources'
import DetailsPanel from '~/features/desk/DetailsPanel.vue'
import { useGenerated } from '~/features/titles/useGenerated'
import { plainTitle } from '~/features/titles/generated'
import { useTitles } from '~/features/titles/titlesStore'
import { button, called, choose, typeNumber, typeText } from './tools/fields'
import { openDesk } from './tools/desk'
import { CARD, HARBOUR, SECOND } from './tools/server'

const frame = SECOND / 30
const format = { width: 1920, height: 1080, rate: { num: 30, den: 1 } }

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

describe('details of a title', () => {
  async function titleDesk() {
    const studio = await openDesk()
    const made = studio.within(useGenerated)
    const clipId = made.put(plainTitle(format), 5 * SECOND)!
    const panel = studio.show(DetailsPanel)
    return { ...studio, clipId, panel, title: () => (studio.project.document!.clips[clipId] as TitleClip).title }
  }

  it('keeps what is typed once it is left, as one step', async () => {
    const { panel, title, project, server } = await titleDesk()
    const words = called(panel, 'Words of the title')
    const steps = project.history.done.length
    for (const text of ['L', 'La', 'Lan', 'Lantern']) await words.setValue(text)
    await words.trigger('blur')
    expect(title().text).toBe('Lantern')
    expect(project.history.done.length).toBe(steps + 1)
    await vi.waitFor(() => expect(server.kept.at(-1)).toBe('setTitle'))
  })

  it('changes the look of the whole title, or of the letters that are marked', async () => {
    const { panel, title, clipId } = await titleDesk()
    const words = called(panel, 'Words of the title')
    await words.setValue('Lantern night')
    await words.trigger('blur')
    await typeNumber(panel, 'Size', '140')
    expect(title().style.size).toBe(140)
    const titles = useTitles()
    titles.editing = clipId
    titles.range = [0, 7]
    await panel.vm.$nextTick()
    expect(panel.text()).toContain('Letters 1 to 7')
    await typeNumber(panel, 'Size', '220')
    expect(title().style.size).toBe(140)
    expect(title().runs).toEqual([{ from: 0, to: 7, style: { size: 220 } }])
  })

  it('offers only what the font can do', async () => {
    const { panel, title } = await titleDesk()
    await called(panel, 'All of Font').trigger('click')
    const fonts = panel.findAll('[role="option"]').map((option) => option.text())
    expect(new Set(fonts).size).toBeGreaterThanOrEqual(24)
    // Each is written in itself.
    expect(panel.find('[role="option"] [style]').attributes('style')).toContain('font-family')
    await called(panel, 'Font').setValue('martian')
    const found = panel.findAll('[role="option"]')
    expect(found.map((option) => option.text())).toEqual(['Martian Mono'])
    await found[0]!.trigger('mousedown')
    await found[0]!.trigger('click')
    expect(title().style.font).toBe('Martian Mono')
    expect(panel.text()).not.toContain('Italic')
  })

  it('gives it moves, changes how they go, and takes them away', async () => {
    const { panel, title } = await titleDesk()
    await choose(panel, 'Comes', 'Rise')
    expect(title().in).toMatchObject({ unit: 'word', overlap: 60 })
    await choose(panel, 'By', 'Letter by letter')
    await choose(panel, 'Order', 'In no order')
    await typeNumber(panel, 'Takes', '1.5')
    expect(title().in).toMatchObject({ unit: 'letter', order: 'random', length: 1.5 * SECOND })
    await choose(panel, 'Comes', 'None')
    expect(title().in).toBeNull()
  })

  it('is kept as one of the person’s own', async () => {
    const { panel, server, said } = await titleDesk()
    const words = called(panel, 'Words of the title')
    await words.setValue('Chapter one\nBoats')
    await words.trigger('blur')
    await button(panel, 'Keep as a title of your own').trigger('click')
    await vi.waitFor(() =>
      expect(useTitles().own).toMatchObject([{ name: 'Chapter one', format: { width: 1920, height: 1080 } }]),
    )
    await vi.waitFor(() => expect(server.settings.get('titles')).toHaveLength(1))
    await vi.waitFor(() => expect(said()).toContain('Chapter one is kept'))
  })

  it('is not said to be kept where the server is away', async () => {
    const { panel, server, said } = await titleDesk()
    server.away = true
    await button(panel, 'Keep as a title of your own').trigger('click')
    await vi.waitFor(() => expect(said()).toContain('could not be kept'))
    expect(said()).not.toContain('is kept')
  })
})

describe('details of a made picture', () => {
  it('changes its kind within its family, and its settings', async () => {
    const studio = await openDesk()
    const made = studio.within(useGenerated)
    const clipId = made.put({ kind: 'generator', generator: 'gradient', settings: {} } as never, 5 * SECOND)!
    const clip = () => studio.project.document!.clips[clipId] as GeneratorClip
    const panel = studio.show(DetailsPanel)
    await choose(panel, 'Kind', 'Plain')
    expect(clip().generator).toBe('plain')
    const colour = panel.find('input[type=color]')
    ;(colour.element as HTMLInputElement).value = '#aa3366'
    await colour.trigger('change')
    expect(Object.values(clip().settings)).toContain('#aa3366')
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

describe('details of a track, sources and the reel', () => {
  it('moves a whole track, with keyframes in reel time', async () => {
    const studio = await openDesk()
    studio.pair(0, 60)
    studio.desk.selectTrack(studio.track('Picture 1').id)
    const panel = studio.show(DetailsPanel)
    expect(panel.text()).toContain('track, 1 clip')
    studio.player.seek(45 * frame)
    await panel.vm.$nextTick()
    await called(panel, 'Set a keyframe of Size').trigger('click')
    const { size } = studio.track('Picture 1').params
    expect(isAnimated(size!) && size.keys.map((key) => key.at / frame)).toEqual([45])
  })

  it('says what a source is, and lays stills as a run in the order of their numbers', async () => {
    const names = ['boat 10.png', 'boat 9.png', 'boat 8.png']
    const stills = names.map((name) => ({ ...CARD, id: crypto.randomUUID(), name }))
    const studio = await openDesk(stills.map((asset) => ({ type: 'addAsset', asset }) as const))
    studio.desk.assets = new Set([HARBOUR.id])
    const panel = studio.show(DetailsPanel)
    for (const fact of ['10.00 s', '1920 × 1080', '30', 'stereo', 'not used']) expect(panel.text()).toContain(fact)
    await typeText(panel, 'Name of the source', 'Harbour')
    expect(studio.project.document!.assets[HARBOUR.id]!.name).toBe('Harbour')
    studio.desk.assets = new Set(stills.map((still) => still.id))
    await panel.vm.$nextTick()
    await typeNumber(panel, 'Each for', '2')
    await button(panel, 'Lay 3 pictures as a run').trigger('click')
    expect(studio.frames('Picture 1')).toEqual([
      [0, 2],
      [2, 2],
      [4, 2],
    ])
    const order = studio
      .on('Picture 1')
      .map((clip) => clip.kind === 'media' && studio.project.document!.assets[clip.assetId]!.name)
    expect(order).toEqual(['boat 8.png', 'boat 9.png', 'boat 10.png'])
  })

  it('says when a source’s file is missing, with a way to give it again', async () => {
    const studio = await openDesk()
    studio.desk.assets = new Set([HARBOUR.id])
    studio.project.sources = {
      [HARBOUR.id]: {
        state: 'ready',
        missing: true,
        notes: ['Turned upright: the phone says so.'],
        codec: 'h264',
        container: 'mp4',
        size: 1_500_000,
        added: 0,
      },
    } as never
    const panel = studio.show(DetailsPanel)
    expect(panel.text()).toContain('missing from the data folder')
    expect(panel.text()).toContain('Turned upright')
    expect(panel.text()).toContain('Give it the file again')
  })

  it('says over the picture which files of a reel are missing, and before a render', async () => {
    const studio = await openDesk()
    studio.pair(0, 60)
    const banner = studio.show(MissingSources)
    expect(banner.text()).toBe('')
    studio.project.sources = { [HARBOUR.id]: { ...studio.project.sources[HARBOUR.id]!, missing: true } } as never
    await banner.vm.$nextTick()
    expect(banner.text()).toContain(`The file of ${HARBOUR.name} is missing`)
    await button(banner, 'Give it again').trigger('click')
    expect([...studio.desk.assets]).toEqual([HARBOUR.id])
    const { document, reelId, sources } = studio.project
    expect(missingIn(document!, reelId, sources)).toEqual([HARBOUR.name])
    expect(missingWords(['a', 'b', 'c', 'd', 'e'])).toBe('The files of a, b, c and 2 more are missing')
    // What no clip plays is nobody's loss.
    expect(missingIn(document!, reelId, { [CARD.id]: { missing: true, state: 'ready' } })).toEqual([])
  })

  it('changes the reel’s shape, rate and background, and adds and removes reels', async () => {
    const studio = await openDesk()
    const panel = studio.show(DetailsPanel)
    await choose(panel, 'Size', 'Tall 1080 × 1920')
    expect(studio.project.reel!.format).toMatchObject({ width: 1080, height: 1920 })
    await choose(panel, 'Frames/s', '25')
    expect(studio.project.reel!.format.rate).toEqual({ num: 25, den: 1 })
    await choose(panel, 'Empty space', 'Blur of itself')
    expect(studio.project.reel!.backgroundFill).toBe('blur')
    const first = studio.project.reelId
    await button(panel, 'Another reel').trigger('click')
    expect(studio.project.reel!.name).toBe('Reel 2')
    expect(studio.project.reelId).not.toBe(first)
    await button(panel, 'Remove this reel').trigger('click')
    expect(studio.project.reelId).toBe(first)
    expect(Object.keys(studio.project.document!.reels)).toEqual([first])
  })
})
