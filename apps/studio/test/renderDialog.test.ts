import { describe, expect, it, vi } from 'vitest'
import { flushPromises, type VueWrapper } from '@vue/test-utils'
import RenderDialog from '~/features/render/RenderDialog.vue'
import { button, called, choose, typeNumber } from './tools/fields'
import { openDesk } from './tools/desk'
import { inPlace } from './tools/inPlace'
import { SECOND } from './tools/server'

describe('rendering', () => {
  const sound = (wrapper: VueWrapper) =>
    wrapper
      .findAll('label')
      .find((label) => label.text().startsWith('Sound'))!
      .find('input')

  it('is made for a purpose, which is kept, handed on and taken in, and remembered by the project', async () => {
    const studio = await openDesk()
    studio.pair(0, 300)
    studio.server.answers.set(`POST /projects/${studio.project.id}/renders`, { id: 'r1' })
    const wrapper = studio.show(RenderDialog, { open: false }, inPlace)
    await wrapper.setProps({ open: true })
    await flushPromises()
    expect(wrapper.text()).toContain('1920 × 1080, as the reel')
    await choose(wrapper, 'Shape', 'Tall, 9:16')
    expect(wrapper.text()).toContain('1080 × 1920, as fine as the reel')
    await choose(wrapper, 'For', 'Tall clip')
    expect(wrapper.text()).toContain('1080 × 1920')
    await choose(wrapper, 'File', 'WebM, VP9')
    await button(wrapper, 'Changed: keep it as your own').trigger('click')
    await called(wrapper, 'Name of the purpose').setValue('For the quay’s page')
    await button(wrapper, 'Keep').trigger('click')
    await flushPromises()
    expect(studio.server.settings.get('purposes')).toMatchObject([
      { name: 'For the quay’s page', settings: { format: 'webm-vp9', shape: '9:16', fit: 'fill' } },
    ])
    await wrapper.find('form').trigger('submit')
    await flushPromises()
    const sent = studio.server.calls.find(({ path, method }) => method === 'POST' && path.endsWith('/renders'))!
    expect((sent.body as { settings: object }).settings).toMatchObject({
      ...{ width: 1080, height: 1920, format: 'webm-vp9', fit: 'fill', loudness: -14, sound: true },
    })
    const again = studio.show(RenderDialog, { open: false }, inPlace)
    await again.setProps({ open: true })
    await flushPromises()
    expect(again.text()).toContain('WebM, VP9')
    expect(again.text()).toContain('For the quay’s page')
    // What is no purpose is refused in words.
    const file = again.find('input[type=file]')
    const bad = new File(['{"duskPurpose": 1, "name": "x", "settings": {"format": "vhs"}}'], 'old.json')
    Object.defineProperty(file.element, 'files', { value: [bad] })
    await file.trigger('change')
    await vi.waitFor(() => expect(studio.said()).toContain('old.json is no purpose of a render: settings.format'))
    localStorage.removeItem('dusk.render')
  })

  it('has some of it made to say what it will come to, once nothing changes, only as long as it is open', async () => {
    const studio = await openDesk()
    studio.pair(0, 300)
    vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] })
    const later = async (ms: number) => {
      await vi.advanceTimersByTimeAsync(ms)
      for (let i = 0; i < 4; i++) await flushPromises()
    }
    try {
      const asked = `POST /projects/${studio.project.id}/estimates`
      const calls = (method: string) =>
        studio.server.calls.filter((call) => call.method === method && call.path.includes('/estimates'))
      studio.server.answers.set(asked, { id: 'e1' })
      studio.server.answers.set('GET /estimates/e1', { found: null, message: null, endedAt: null })
      studio.server.answers.set(`POST /projects/${studio.project.id}/renders`, { id: 'r1' })
      const wrapper = studio.show(RenderDialog, { open: false }, inPlace)
      await wrapper.setProps({ open: true })
      await button(wrapper, 'Bestlarger, for keeping').trigger('click')
      await later(1000)
      await button(wrapper, 'Draftquick to make, visible blur').trigger('click')
      await later(1000)
      expect(calls('POST')).toEqual([])
      await later(500)
      expect(calls('POST').map(({ body }) => body)).toMatchObject([
        { reelId: studio.project.reelId, settings: { quality: 'draft', range: null } },
      ])
      expect(wrapper.text()).toContain('Some of its parts are made just now')
      const found = { bytes: 12e6, spread: 0.3, seconds: 40, made: 2, chunks: 9 }
      studio.server.answers.set('GET /estimates/e1', { found, message: null, endedAt: null })
      await later(1000)
      expect(wrapper.text()).toContain('8.4 MB to 15.6 MB. It takes about 40 s, going by 2 of 9 parts so far.')
      const better = { ...found, bytes: 11e6, spread: 0.04, seconds: 30, made: 4 }
      studio.server.answers.set('GET /estimates/e1', { found: better, message: null, endedAt: 'now' })
      await later(1000)
      expect(wrapper.text()).toContain('about 11.0 MB. It takes about 30 s.')
      await later(5000)
      expect(calls('GET')).toHaveLength(3)
      // What was told goes with the render, to be held against what it comes to.
      await wrapper.find('form').trigger('submit')
      await later(1)
      const sent = studio.server.calls.find(({ path, method }) => method === 'POST' && path.endsWith('/renders'))!
      expect(sent.body).toMatchObject({ settings: { expected: { bytes: 11e6, seconds: 30 } } })
      await wrapper.setProps({ open: false })
      await later(1)
      expect(calls('DELETE').map(({ path }) => path)).toEqual(['/estimates/e1'])
      // A file that can only be told as a whole is not asked about.
      await wrapper.setProps({ open: true })
      await choose(wrapper, 'File', 'GIF')
      await later(5000)
      expect(calls('POST')).toHaveLength(1)
    } finally {
      vi.useRealTimers()
      localStorage.removeItem('dusk.render')
    }
  })

  it('can’t begin with nothing on the timeline', async () => {
    const studio = await openDesk()
    const wrapper = studio.show(RenderDialog, { open: false }, inPlace)
    await wrapper.setProps({ open: true })
    expect(wrapper.text()).toContain('nothing on the timeline')
    expect(button(wrapper, 'Start rendering').attributes('disabled')).toBeDefined()
  })

  it('goes by the last file of the reel, and renders what is marked as far as the reel goes', async () => {
    const studio = await openDesk()
    studio.pair(0, 300)
    const settings = { width: 1920, height: 1080, rate: { num: 30, den: 1 }, quality: 'good', sound: false }
    const report = { bytes: 4_000_000, seconds: 10 }
    studio.server.answers.set('GET /renders', { renders: [{ reelId: studio.project.reelId, settings, report }] })
    studio.server.answers.set(`POST /projects/${studio.project.id}/renders`, { id: 'r1' })
    studio.desk.range = { from: SECOND * 5, to: SECOND * 20 }
    const wrapper = studio.show(RenderDialog, { open: false }, inPlace)
    await wrapper.setProps({ open: true })
    await flushPromises()
    await sound(wrapper).setValue(false)
    expect(wrapper.text()).toContain('about 4.0 MB, going by the last one')
    await choose(wrapper, 'What', 'What is marked, 0:00:05:00 to 0:00:10:00')
    expect(wrapper.text()).toContain('about 2.0 MB')
    expect(wrapper.text()).toContain('past the end of the reel')
    await wrapper.find('form').trigger('submit')
    await flushPromises()
    const sent = studio.server.calls.find(({ path, method }) => method === 'POST' && path.endsWith('/renders'))!
    expect((sent.body as { settings: object }).settings).toMatchObject({ range: { from: SECOND * 5, to: SECOND * 10 } })
  })

  it('sends what was chosen, and says how large the file will be', async () => {
    const studio = await openDesk()
    studio.pair(0, 300)
    studio.server.answers.set(`POST /projects/${studio.project.id}/renders`, { id: 'r1' })
    const wrapper = studio.show(RenderDialog, { open: false }, inPlace)
    await wrapper.setProps({ open: true })
    const about = () => /[\d.]+ \w+ to ([\d.]+ \w+), by how much moves/.exec(wrapper.text())![1]
    const good = about()
    await wrapper
      .findAll('button')
      .find((entry) => entry.text().startsWith('Draft'))!
      .trigger('click')
    expect(about()).not.toBe(good)
    await sound(wrapper).setValue(false)
    await choose(wrapper, 'Frames/s', '25')
    await wrapper.find('form').trigger('submit')
    await flushPromises()
    const sent = studio.server.calls.find(({ path, method }) => method === 'POST' && path.endsWith('/renders'))!
      .body as { settings: object }
    expect(sent).toMatchObject({
      name: 'Lantern Night',
      reelId: studio.project.reelId,
      settings: { width: 1920, height: 1080, rate: { num: 25, den: 1 }, quality: 'draft', sound: false, range: null },
    })
    expect(wrapper.emitted('started')).toHaveLength(1)
  })

  it('lets originals keep their quality where nothing was changed, unless bits are counted', async () => {
    const studio = await openDesk()
    studio.pair(0, 300)
    studio.server.answers.set(`POST /projects/${studio.project.id}/renders`, { id: 'r1' })
    const wrapper = studio.show(RenderDialog, { open: false }, inPlace)
    await wrapper.setProps({ open: true })
    const originals = () => wrapper.findAll('label').find((label) => label.text().startsWith('Originals'))
    await originals()!.find('input').setValue(true)
    expect(wrapper.text()).toContain('as large as its originals make it')
    await choose(wrapper, 'For', 'Small to send')
    expect(originals()!.text()).toContain('not where a file keeps to a number of bits')
    expect(originals()!.find('input').element.disabled).toBe(true)
    await choose(wrapper, 'File', 'MP4, AV1')
    expect(originals()).toBeUndefined()
    await choose(wrapper, 'For', 'As the reel')
    await originals()!.find('input').setValue(true)
    await wrapper.find('form').trigger('submit')
    await flushPromises()
    const sent = studio.server.calls.find(({ path, method }) => method === 'POST' && path.endsWith('/renders'))!
      .body as { settings: object }
    expect(sent.settings).toMatchObject({ streamCopy: true, quality: 'good' })
    localStorage.removeItem('dusk.render')
  })

  it('offers encoders in hardware that were proved, where the file can be made by them', async () => {
    const studio = await openDesk()
    studio.pair(0, 300)
    studio.server.answers.set('GET /hardware', { encoders: ['h264_vaapi'] })
    studio.server.answers.set(`POST /projects/${studio.project.id}/renders`, { id: 'r1' })
    const wrapper = studio.show(RenderDialog, { open: false }, inPlace)
    await wrapper.setProps({ open: true })
    await flushPromises()
    await wrapper
      .findAll('button')
      .find((entry) => entry.text().startsWith('Words, chapters'))!
      .trigger('click')
    await choose(wrapper, 'Encoded by', 'the graphics chip (VA-API)')
    const sent = async () => {
      await wrapper.find('form').trigger('submit')
      await flushPromises()
      const calls = studio.server.calls.filter(({ path, method }) => method === 'POST' && path.endsWith('/renders'))
      return (calls.at(-1)!.body as { settings: object }).settings
    }
    expect(await sent()).toMatchObject({ hardware: 'h264_vaapi' })
    // Only processors have a choice of speeds, and make what is to fit or is taken over: nothing is offered in vain.
    expect(wrapper.text()).not.toContain('Encoder')
    const originals = wrapper.findAll('label').find((label) => label.text().startsWith('Originals'))!
    await originals.find('input').setValue(true)
    expect(wrapper.text()).not.toContain('Encoded by')
    await originals.find('input').setValue(false)
    expect(wrapper.text()).toContain('Encoded by')
    await choose(wrapper, 'File size', 'Fits into so many MB')
    expect(wrapper.text()).not.toContain('Encoded by')
    expect(await sent()).not.toHaveProperty('hardware')
    await choose(wrapper, 'File size', 'As the quality makes it')
    await choose(wrapper, 'File', 'MP4, H.265')
    expect(wrapper.text()).not.toContain('Encoded by')
    expect(await sent()).not.toHaveProperty('hardware')
    localStorage.removeItem('dusk.render')
    localStorage.removeItem('dusk.encodedBy')
  })

  it('is asked to fit into a size, where the kind of file can, with an encoder that takes its time', async () => {
    const studio = await openDesk()
    studio.pair(0, 300)
    studio.server.answers.set(`POST /projects/${studio.project.id}/renders`, { id: 'r1' })
    const wrapper = studio.show(RenderDialog, { open: false }, inPlace)
    await wrapper.setProps({ open: true })
    await wrapper
      .findAll('button')
      .find((entry) => entry.text().startsWith('Words, chapters'))!
      .trigger('click')
    await choose(wrapper, 'Encoder', 'Thorough, smaller files')
    await choose(wrapper, 'File size', 'Fits into so many MB')
    await typeNumber(wrapper, 'Into', '9.5')
    expect(wrapper.text()).toContain('about 9.5 MB')
    // What is to fit is not seen through: it is not offered then.
    await choose(wrapper, 'File', 'WebM, VP9')
    expect(wrapper.text()).toContain('not where a file fits into a size')
    // What can't be held to a size does not offer it, and goes by its quality.
    await choose(wrapper, 'File', 'MP4, AV1')
    await expect(choose(wrapper, 'File size', 'Fits into so many MB')).rejects.toThrow('has no Fits into so many MB')
    expect(wrapper.text()).not.toContain('about 9.5 MB')
    await choose(wrapper, 'File', 'MP4, H.265')
    await wrapper.find('form').trigger('submit')
    await flushPromises()
    const sent = studio.server.calls.find(({ path, method }) => method === 'POST' && path.endsWith('/renders'))!
      .body as { settings: object }
    expect(sent.settings).toMatchObject({ format: 'mp4-h265', maxBytes: 9_500_000, speed: 'thorough' })
    expect(Object.keys(sent.settings)).not.toContain('bitrate')
    localStorage.removeItem('dusk.render')
  })

  it('makes a file of each stretch that a marker names, and of every reel', async () => {
    const studio = await openDesk()
    studio.pair(0, 300)
    const { reelId } = studio.project
    const marker = (at: number, length: number, name: string) => ({
      ...{ id: crypto.randomUUID(), reelId, clipId: null, at: at * SECOND, length: length * SECOND },
      ...{ name, colour: 'lamp' as const, note: '' },
    })
    const markers = [marker(6, 9, ''), marker(1, 2, 'Boats'), marker(4, 0, 'A place'), marker(40, 2, 'Beyond')]
    studio.project.perform({ type: 'addMarkers', markers })
    studio.server.answers.set(`POST /projects/${studio.project.id}/renders`, { id: 'r1' })
    const wrapper = studio.show(RenderDialog, { open: false }, inPlace)
    await wrapper.setProps({ open: true })
    await flushPromises()
    expect(wrapper.text()).not.toContain('Every reel')
    await choose(wrapper, 'What', 'Each stretch that a marker names, 2 in all')
    expect(wrapper.text()).toContain('0:06 long')
    await wrapper.find('form').trigger('submit')
    await flushPromises()
    const sent = studio.server.calls.filter(({ path, method }) => method === 'POST' && path.endsWith('/renders'))
    expect(sent.map(({ body }) => body)).toMatchObject([
      { name: 'Lantern Night, Boats', settings: { range: { from: SECOND, to: 3 * SECOND } } },
      { name: 'Lantern Night, 2', settings: { range: { from: 6 * SECOND, to: 10 * SECOND } } },
    ])
  })

  it('begins with what a render was made like that is made again', async () => {
    const studio = await openDesk()
    studio.pair(0, 300)
    studio.server.answers.set(`POST /projects/${studio.project.id}/renders`, { id: 'r2' })
    const settings = { width: 1080, height: 1920, rate: { num: 25, den: 1 }, quality: 'best', format: 'webm-vp9' }
    const made = { ...settings, fit: 'fill', sound: false, range: { from: SECOND, to: 4 * SECOND }, title: 'Boats' }
    const again = { id: 'r1', reelId: studio.project.reelId, name: 'Upright', settings: made }
    const wrapper = studio.show(RenderDialog, { open: false, again }, inPlace)
    await wrapper.setProps({ open: true })
    await flushPromises()
    await choose(wrapper, 'Frames/s', '30')
    await wrapper.find('form').trigger('submit')
    await flushPromises()
    const sent = studio.server.calls.find(({ path, method }) => method === 'POST' && path.endsWith('/renders'))!
    expect(sent.body).toMatchObject({ name: 'Upright', settings: { ...made, rate: { num: 30, den: 1 } } })
  })

  it('says why the server refused, and stays open', async () => {
    const studio = await openDesk()
    studio.pair(0, 30)
    studio.server.answers.set(
      `POST /projects/${studio.project.id}/renders`,
      new Response(JSON.stringify({ detail: 'harbour-wide.mp4 is missing.' }), { status: 409 }),
    )
    const wrapper = studio.show(RenderDialog, { open: false }, inPlace)
    await wrapper.setProps({ open: true })
    await wrapper.find('form').trigger('submit')
    await flushPromises()
    expect(studio.said()).toContain('harbour-wide.mp4 is missing')
    expect(wrapper.emitted('started')).toBeUndefined()
    expect(button(wrapper, 'Start rendering').attributes('disabled')).toBeUndefined()
  })
})
