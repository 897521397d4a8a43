import { describe, expect, it, vi } from 'vitest'
import { flushPromises } from '@vue/test-utils'
import NewProjectDialog from '~/features/projects/NewProjectDialog.vue'
import ProjectCard from '~/features/projects/ProjectCard.vue'
import ShortcutsDialog from '~/features/shortcuts/ShortcutsDialog.vue'
import TrackHead from '~/features/timeline/TrackHead.vue'
import { useShortcuts } from '~/features/shortcuts/shortcutsStore'
import { useNotices } from '~/features/ui/noticesStore'
import { button, called, choose } from './tools/fields'
import { openDesk } from './tools/desk'
import { inPlace } from './tools/inPlace'

describe('a new project', () => {
  async function dialog() {
    const studio = await openDesk()
    return studio.show(NewProjectDialog, { open: true }, inPlace)
  }

  it('is wide, full HD and 30 frames a second unless told otherwise', async () => {
    const wrapper = await dialog()
    await wrapper.find('form').trigger('submit')
    expect(wrapper.emitted('create')).toEqual([
      ['Untitled reel', { width: 1920, height: 1080, rate: { num: 30, den: 1 } }],
    ])
  })

  it('takes a name, a shape, a size and a rate', async () => {
    const wrapper = await dialog()
    await wrapper.find('input').setValue('  Boats at dusk ')
    const tall = wrapper.findAll('button').find((entry) => entry.text() === 'Tall')!
    await tall.trigger('click')
    expect(tall.attributes('aria-pressed')).toBe('true')
    await choose(wrapper, 'Size', '720 × 1280')
    await choose(wrapper, 'Frames/s', '25')
    await wrapper.find('form').trigger('submit')
    expect(wrapper.emitted('create')).toEqual([
      ['Boats at dusk', { width: 720, height: 1280, rate: { num: 25, den: 1 } }],
    ])
  })

  it('takes a size of one’s own, and says what is wrong with an odd or huge one', async () => {
    const wrapper = await dialog()
    await wrapper
      .findAll('button')
      .find((entry) => entry.text() === 'Own')!
      .trigger('click')
    await called(wrapper, 'Width in pixels').setValue(1001)
    expect(wrapper.text()).toContain('even numbers')
    await called(wrapper, 'Width in pixels').setValue(10_000)
    expect(wrapper.text()).toContain('from 16 to 8192')
    expect(button(wrapper, 'Create').attributes('disabled')).toBeDefined()
    await wrapper.find('form').trigger('submit')
    expect(wrapper.emitted('create')).toBeUndefined()
    await called(wrapper, 'Width in pixels').setValue(1000)
    await called(wrapper, 'Height in pixels').setValue(1000)
    await wrapper.find('form').trigger('submit')
    expect(wrapper.emitted('create')).toMatchObject([['Untitled reel', { width: 1000, height: 1000 }]])
  })
})

describe('a project’s card', () => {
  it('is renamed in place, and not to nothing', async () => {
    const project = { id: 'p1', name: 'Lantern Night', length: 0, poster: null, editedAt: '2026-11-20T19:05:00Z' }
    const studio = await openDesk()
    const wrapper = studio.show(ProjectCard, { project }, inPlace)
    expect(wrapper.text()).toContain('empty')
    expect(wrapper.find('a').attributes('href')).toBe('/projects/p1')
    for (const name of ['   ', 'Boats']) {
      await called(wrapper, 'More for Lantern Night').trigger('click')
      await wrapper
        .findAll('button')
        .find((entry) => entry.text() === 'Rename')!
        .trigger('click')
      await flushPromises()
      const field = called(wrapper, 'Name of the project')
      ;(field.element as HTMLInputElement).value = name
      await field.trigger('blur')
    }
    expect(wrapper.emitted('rename')).toEqual([['Boats']])
  })

  it('is saved as an archive, and says before which files would be missing from it', async () => {
    const project = { id: 'p1', name: 'Lantern Night', length: 0, poster: null, editedAt: '2026-11-20T19:05:00Z' }
    const studio = await openDesk()
    const wrapper = studio.show(ProjectCard, { project }, inPlace)
    const saved: string[] = []
    vi.spyOn(HTMLAnchorElement.prototype, 'click').mockImplementation(function (this: HTMLAnchorElement) {
      saved.push(`${this.download} from ${new URL(this.href).pathname}${new URL(this.href).search}`)
    })
    const choose = async () => {
      await called(wrapper, 'More for Lantern Night').trigger('click')
      await button(wrapper, 'Save as archive').trigger('click')
      await flushPromises()
    }
    studio.server.answers.set('GET /projects/p1/archive?look=1', { complete: true })
    await choose()
    expect(saved).toEqual(['Lantern Night.duskreel from /api/projects/p1/archive'])
    const words = 'The archive would lack the file of boat.mp4.'
    const refusal = new Response(JSON.stringify({ detail: words }), { status: 409 })
    studio.server.answers.set('GET /projects/p1/archive?look=1', refusal)
    await choose()
    const notice = useNotices().list.at(-1)!
    expect(notice).toMatchObject({ text: words, actions: [{ label: 'Save without' }] })
    expect(saved).toHaveLength(1)
    notice.actions[0]!.run()
    expect(saved.at(-1)).toBe('Lantern Night.duskreel from /api/projects/p1/archive?lacking=1')
  })
})

describe('shortcuts', () => {
  async function sheet() {
    const studio = await openDesk()
    const wrapper = studio.show(ShortcutsDialog, { open: true }, inPlace)
    return { ...studio, wrapper, shortcuts: useShortcuts() }
  }

  it('are found by what they do or by key', async () => {
    const { wrapper } = await sheet()
    const lines = () => wrapper.findAll('[aria-label^="Give "]').length
    const all = lines()
    expect(all).toBeGreaterThan(60)
    await called(wrapper, 'Find a shortcut').setValue('ripple')
    expect(lines()).toBeLessThan(5)
    expect(lines()).toBeGreaterThan(0)
  })

  it('are given by pressing them, in a set of the person’s own, and say what else has the key', async () => {
    const { wrapper, shortcuts, server } = await sheet()
    const split = shortcuts.keyOf('cut.split')
    const plus = called(wrapper, 'Give Split all tracks a key')
    await plus.trigger('click')
    expect(plus.text()).toBe('press keys')
    await plus.trigger('keydown', { key: 'F7', code: 'F7' })
    await vi.waitFor(() => expect(shortcuts.bindings['cut.splitAll']).toContain('F7'))
    expect(shortcuts.stored.active).toBe('Mine')
    await vi.waitFor(() => expect(server.settings.get('shortcuts')).toMatchObject({ active: 'Mine' }))
    expect(wrapper.text()).not.toContain('two actions')
    shortcuts.bind('cut.splitAll', [split])
    await flushPromises()
    expect(wrapper.text()).toContain('1 key has two actions')
    await shortcuts.choose(shortcuts.names[0]!)
    expect(shortcuts.bindings['cut.splitAll']).not.toContain(split)
    shortcuts.remove('Mine')
    expect(shortcuts.names).toEqual([shortcuts.stored.active])
  })

  it('are left alone by Escape, and taken away one by one', async () => {
    const { wrapper, shortcuts } = await sheet()
    const before = shortcuts.bindings['cut.split']!
    const plus = called(wrapper, 'Give Split at the playhead a key')
    await plus.trigger('click')
    await plus.trigger('keydown', { key: 'Escape', code: 'Escape' })
    expect(shortcuts.bindings['cut.split']).toEqual(before)
    await called(wrapper, `Take ${before[0]} from Split at the playhead`).trigger('click')
    await vi.waitFor(() => expect(shortcuts.bindings['cut.split']).toEqual(before.slice(1)))
  })
})

describe('the head of a track', () => {
  it('hides, mutes, solos and locks', async () => {
    const studio = await openDesk()
    const shown = (name: string) => studio.show(TrackHead, { track: studio.track(name), front: false })
    await called(shown('Picture 1'), 'Hide Picture 1').trigger('click')
    await called(shown('Music'), 'Mute Music').trigger('click')
    await called(shown('Music'), 'Solo Music').trigger('click')
    await called(shown('Voice'), 'Lock Voice').trigger('click')
    expect(studio.track('Picture 1').hidden).toBe(true)
    expect(studio.track('Music')).toMatchObject({ muted: true, solo: true })
    expect(studio.track('Voice').locked).toBe(true)
  })

  it('is renamed by a double click, and says which is in front', async () => {
    const studio = await openDesk()
    const head = studio.show(TrackHead, { track: studio.track('Picture 2'), front: true })
    expect(head.text()).toContain('in front')
    await head.find('[title*="Double-click to rename"]').trigger('dblclick')
    await flushPromises()
    const field = called(head, 'Name of the track')
    ;(field.element as HTMLInputElement).value = 'Overlays'
    await field.trigger('keydown', { key: 'Enter' })
    expect(studio.track('Overlays').kind).toBe('picture')
  })

  it('is aimed at by its switch, one of a kind at a time', async () => {
    const studio = await openDesk()
    const [one, two, voice] = ['Picture 1', 'Picture 2', 'Voice'].map((name) => {
      const head = studio.show(TrackHead, { track: studio.track(name), front: false })
      return called(head, `${name === 'Voice' ? 'Sounds' : 'Pictures'} that come in go to ${name}`)
    })
    const aimed = () => [one, two, voice].map((aim) => aim!.attributes('aria-pressed'))
    await one!.trigger('click')
    await voice!.trigger('click')
    expect(aimed()).toEqual(['true', 'false', 'true'])
    await two!.trigger('click')
    expect(aimed()).toEqual(['false', 'true', 'true'])
    await two!.trigger('click')
    expect(aimed()).toEqual(['false', 'false', 'true'])
  })

  it('moves by one row: higher is nearer for pictures, and no further than there are rows', async () => {
    const studio = await openDesk()
    const order = () =>
      Object.values(studio.project.document!.tracks)
        .filter((track) => track.kind === 'picture')
        .sort((a, b) => (a.order < b.order ? 1 : -1))
        .map((track) => track.name)
    expect(order()).toEqual(['Picture 2', 'Picture 1'])
    for (let i = 0; i < 2; i++) {
      const head = studio.show(TrackHead, { track: studio.track('Picture 1'), front: false })
      await called(head, 'More for Picture 1').trigger('click')
      const items = [...document.querySelectorAll<HTMLElement>('[role="menuitem"]')]
      items.find((entry) => entry.textContent?.trim() === 'Put it higher')!.click()
      expect(order()).toEqual(['Picture 1', 'Picture 2'])
    }
  })
})
