import { flushPromises, mount, type VueWrapper } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { PostLimits } from '@dusk/interchange'
import { postWords, readTags, type PostDraft, type PostRow } from '~/features/posting/posting'
import PostDialog from '~/features/posting/PostDialog.vue'
import PostLine from '~/features/posting/PostLine.vue'
import ThumbnailPicker from '~/features/posting/ThumbnailPicker.vue'
import ChoiceField from '~/features/ui/ChoiceField.vue'
import { button, called } from './tools/fields'

const limits: PostLimits = {
  ...{ place: 'The practice board', kinds: ['video/mp4'], maxBytes: 1e9, maxSeconds: 600, title: 60, description: 500 },
  shape: { least: 1, most: 3, words: 'wide pictures' },
  tags: { most: 5, length: 20 },
  chapters: { most: 10, leastSeconds: 2 },
  thumbnail: { maxBytes: 2000, kinds: ['image/png'] },
}
const draft: PostDraft = {
  ...{ title: 'Lantern Night', description: '', chapters: [{ at: 0, name: 'Arrival' }], limits, message: null },
  file: { name: 'night.mp4', kind: 'video/mp4', bytes: 4_000_000, seconds: 36, width: 1280, height: 720 },
}
const row = {
  ...{ id: 'p1', renderId: 'r1', place: 'The practice board', state: 'working', message: null, sent: 1_000_000 },
  ...{ words: { title: 'Lantern Night' }, file: draft.file, page: null },
} as PostRow

describe('a post on its way', () => {
  it('says how far it is in words', () => {
    expect(postWords(row)).toBe('is sent, 25 %')
    expect(postWords({ ...row, sent: 4_000_000 })).toBe('all sent, is being put up')
    expect(postWords({ ...row, state: 'waiting', sent: 0 })).toBe('waits for its turn')
    expect(postWords({ ...row, state: 'cancelled' })).toBe('stopped at 25 %')
    expect(postWords({ ...row, message: 'The board is away.' })).toBe('The board is away. 25 % of it is there already.')
    expect(postWords({ ...row, state: 'failed', message: 'It broke off.' })).toBe(
      'It broke off. 25 % of it is there already.',
    )
  })

  it('can be stopped, gone on with, looked at and forgotten', async () => {
    const line = (change: object) => mount(PostLine, { props: { post: { ...row, ...change } } })
    const working = line({})
    expect(working.find('[role=progressbar]').attributes('aria-valuenow')).toBe('25')
    await button(working, 'Stop').trigger('click')
    expect(working.emitted('cancel')).toHaveLength(1)
    const failed = line({ state: 'failed', message: 'It broke off.' })
    await button(failed, 'Go on').trigger('click')
    expect(failed.emitted('resume')).toHaveLength(1)
    expect(button(line({ state: 'failed', sent: 0 }), 'Try again')).toBeTruthy()
    const ready = line({ state: 'ready', page: 'http://127.0.0.1:9/posts/1' })
    expect(ready.find('a').attributes('href')).toBe('http://127.0.0.1:9/posts/1')
    await called(ready, 'Forget the post Lantern Night').trigger('click')
    expect(ready.emitted('forget')).toHaveLength(1)
  })
})

describe('tags', () => {
  it('are parted by commas and lines, without signs before them, each once', () => {
    expect(readTags('boats, #night,\nboats,, quay ')).toEqual(['boats', 'night', 'quay'])
  })
})

describe('what is said of a film', () => {
  let answer: PostDraft
  let posted: { words: object; thumbnail: object } | null
  beforeEach(() => {
    setActivePinia(createPinia())
    answer = draft
    posted = null
    vi.stubGlobal('fetch', async (url: string, init?: RequestInit) => {
      if (init?.method === 'POST') posted = JSON.parse(init.body as string)
      return new Response(JSON.stringify(url.endsWith('/post-draft') ? answer : { id: 'p1' }))
    })
  })
  const open = async () => {
    const DialogFrame = { props: ['title'], template: '<section><h1>{{ title }}</h1><slot /></section>' }
    const global = { stubs: { DialogFrame }, components: { ChoiceField } }
    const dialog = mount(PostDialog, { props: { renderId: 'r1', name: 'Night' }, global })
    await flushPromises()
    return dialog
  }
  const field = (dialog: VueWrapper, label: string) =>
    dialog
      .findAll('label')
      .find((entry) => entry.text().startsWith(label))!
      .find('input, textarea')

  it('begins with what the render says, shows what would be refused, and is sent when nothing is', async () => {
    const dialog = await open()
    expect((field(dialog, 'Title').element as HTMLInputElement).value).toBe('Lantern Night')
    expect((field(dialog, 'Chapters').element as HTMLTextAreaElement).value).toBe('0:00 Arrival')
    expect(dialog.text()).toContain(
      '1280 × 720, 0:36 of at most 10:00, 4.0 MB of at most 1.0 GB; it takes wide pictures.',
    )
    await field(dialog, 'Tags').setValue('a, b, c, d, e, f')
    await field(dialog, 'Chapters').setValue('0:00 Arrival\nLanterns')
    expect(dialog.find('ul').text()).toContain('There are 6 tags, 5 at most.')
    expect(dialog.find('ul').text()).toContain('Chapter 2: it begins with a time')
    expect(button(dialog, 'Post it').attributes('disabled')).toBeDefined()
    await field(dialog, 'Tags').setValue('night, boats')
    await field(dialog, 'Chapters').setValue('0:00 Arrival\n0:20 Lanterns')
    await dialog.find('form').trigger('submit')
    await flushPromises()
    expect(posted).toEqual({
      words: {
        ...{ title: 'Lantern Night', description: '', tags: ['night', 'boats'], captions: null },
        chapters: [
          { at: 0, name: 'Arrival' },
          { at: 20, name: 'Lanterns' },
        ],
      },
      thumbnail: { at: 12 },
    })
    expect(dialog.emitted('posted')).toHaveLength(1)
  })

  it('says that the place does not answer, and asks again', async () => {
    answer = { ...draft, limits: null, message: 'The place does not answer.' }
    const dialog = await open()
    expect(dialog.text()).toContain('The place does not answer.')
    expect(button(dialog, 'Post it').attributes('disabled')).toBeDefined()
    await field(dialog, 'Title').setValue('Typed meanwhile')
    answer = draft
    await button(dialog, 'Ask again').trigger('click')
    await flushPromises()
    expect((field(dialog, 'Title').element as HTMLInputElement).value).toBe('Typed meanwhile')
    expect(button(dialog, 'Post it').attributes('disabled')).toBeUndefined()
  })

  it('has a picture out of the film, or a file that the place takes', async () => {
    const dialog = await open()
    const picker = dialog.findComponent(ThumbnailPicker)
    await called(dialog, 'Where in the film the thumbnail is').setValue('30')
    await vi.waitFor(() => expect(picker.find('img').attributes('src')).toBe('/api/renders/r1/picture?at=30.00'))
    picker.vm.$emit('update:modelValue', new File([new Uint8Array(10)], 'own.png', { type: 'image/png' }))
    await flushPromises()
    await dialog.find('form').trigger('submit')
    await vi.waitFor(() => expect(posted?.thumbnail).toEqual({ kind: 'image/png', bytes: 'AAAAAAAAAAAAAA==' }))
  })
})
