import { describe, expect, it, vi } from 'vitest'
import { isAnimated, type GeneratorClip, type TitleClip } from '@dusk/timeline'
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
