import { flushPromises, mount } from '@vue/test-utils'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import ChunkStrip from '~/features/render/ChunkStrip.vue'
import CurveChart from '~/features/render/CurveChart.vue'
import RenderCard from '~/features/render/RenderCard.vue'
import RenderDetails from '~/features/render/RenderDetails.vue'
import RenderUnderWay from '~/features/render/RenderUnderWay.vue'
import { inOrder, placeBehind, type ChunkState, type RenderRow } from '~/features/render/renderRow'
import { estimateSeconds, offBy, type TimedRender } from '~/features/render/renderTime'
import { button, called } from './tools/fields'

const render = {
  id: 'r1',
  projectId: 'p1',
  projectName: 'Lantern Night',
  name: 'For upload',
  state: 'working',
  message: null,
  progress: null,
  report: null,
  settings: { width: 1920, height: 1080, rate: { num: 30, den: 1 }, quality: 'good', range: null, sound: true },
  place: 0,
  posts: [],
  createdAt: '',
  endedAt: null,
}
const NuxtLink = { props: ['to'], template: '<a :href="to"><slot /></a>' }
const global = { stubs: { NuxtLink, RenderUnderWay, RenderDetails, ChunkStrip, CurveChart } }
const card = (change: object) => mount(RenderCard, { props: { render: { ...render, ...change } as never }, global })

const chunk = (n: number, state: ChunkState['state'], worker: string | null = null, drawn = 0): ChunkState => ({
  ...{ n, first: n * 100, end: n * 100 + 100, state, worker, drawn, silent: false },
})
let chunks: ChunkState[] = []
const details = {
  streams: [
    { kind: 'picture', codec: 'h264', words: '1920 × 1080, 30 frames/s' },
    { kind: 'sound', codec: 'aac', words: '48 kHz, stereo' },
  ],
  bitrate: [1_000_000, 3_000_000, 2_000_000],
  loudness: [null, -20, -14],
}

beforeEach(() => {
  chunks = []
  vi.stubGlobal(
    'fetch',
    async (url: string) => new Response(JSON.stringify(url.endsWith('/details') ? details : { chunks })),
  )
})

describe('a render that is under way', () => {
  it('shows how far it is, how quick, and how long it will take; is paused, gone on with and cancelled', async () => {
    const progress = { stage: 'picture', framesDone: 75, frames: 300, secondsLeft: 42, pace: 45 }
    const wrapper = card({ progress })
    expect(wrapper.text()).toContain('drawing and encoding, 75 of 300 frames')
    expect(wrapper.text()).toContain('1.5 times as fast as it plays')
    expect(wrapper.text()).toMatch(/42 s(econds)? left/)
    expect(wrapper.find('[role=progressbar]').attributes('aria-valuenow')).toBe('25')
    await button(wrapper, 'Cancel').trigger('click')
    await button(wrapper, 'Pause').trigger('click')
    const paused = card({ state: 'paused', progress })
    expect(paused.text()).toContain('paused: what was made is kept')
    await button(paused, 'Go on').trigger('click')
    expect([wrapper.emitted('cancel'), wrapper.emitted('pause'), paused.emitted('resume')]).toEqual([[[]], [[]], [[]]])
    expect(card({ state: 'waiting' }).text()).toContain('waits for its turn')
  })

  it('shows each part: made, kept, being made and by whom, with a picture of the last', async () => {
    chunks = [chunk(0, 'kept'), chunk(1, 'ready', 'quay 7'), chunk(2, 'working', 'pier 9', 25), chunk(3, 'waiting')]
    const wrapper = card({ progress: { stage: 'picture', framesDone: 225, frames: 400, secondsLeft: null } })
    await flushPromises()
    const strip = wrapper.findComponent(ChunkStrip)
    expect(strip.get('[role=img]').attributes('aria-label')).toBe('1 of 4 parts made, 1 was there already')
    expect(strip.findAll('[title]').map((piece) => piece.attributes('title'))).toEqual([
      '0 to 100: was there already',
      '100 to 200: made, worker A (quay 7)',
      '200 to 300: being made, worker B (pier 9)',
      '300 to 400: waits',
    ])
    expect(strip.html()).toContain('width: 25%')
    expect(wrapper.get('img').attributes('src')).toBe('/api/renders/r1/chunks/1/picture')
  })

  it('is in its order, what is made first, and what was dropped goes where it was dropped', () => {
    const row = (id: string, state: string, place: number) => ({ ...render, id, state, place }) as unknown as RenderRow
    const rows = [row('e', 'ready', 0), row('d', 'waiting', 9), row('c', 'paused', 5), row('b', 'waiting', 3)]
    const { open, done } = inOrder([...rows, row('a', 'working', 7)])
    expect([open.map(({ id }) => id), done.map(({ id }) => id)]).toEqual([['a', 'b', 'c', 'd'], ['e']])
    expect(placeBehind(open, 'd', 'b')).toBe('a')
    expect(placeBehind(open, 'b', 'd')).toBe('d')
    expect(placeBehind(open, 'b', 'a')).toBeNull()
    expect(placeBehind(open, 'b', 'b')).toBeUndefined()
    expect(placeBehind(open, 'b', 'gone')).toBeUndefined()
  })
})

describe('a render that has ended', () => {
  const report = {
    ...{ frames: 300, seconds: 10, bytes: 5_000_000, loudness: -14.2, peak: 1.2, took: 31, reused: 3, chunks: 10 },
  }

  it('says what came of it: checked, cancelled, or failed and why', async () => {
    const ready = card({ state: 'ready', report })
    for (const words of ['300 frames', '10.00 s', '−14.2 LUFS', 'sound clipped', '3 of 10 parts'])
      expect(ready.text()).toContain(words)
    expect(ready.find('a[download]').attributes('href')).toBe('/api/renders/r1/file?download')
    expect(ready.find('a[href="/projects/p1?render=r1"]').text()).toBe('Again, changed')
    await button(ready, 'Play').trigger('click')
    expect(ready.find('video').exists()).toBe(true)
    const failed = card({ state: 'failed', message: 'The disk is full.' })
    expect(failed.text()).toContain('The disk is full.')
    await button(failed, 'Try again').trigger('click')
    expect(failed.emitted('resume')).toHaveLength(1)
    const cancelled = card({ state: 'cancelled' })
    await called(cancelled, 'Remove the render For upload').trigger('click')
    expect(cancelled.emitted('remove')).toHaveLength(1)
  })

  it('speaks of a still and of sound alone as what they are', async () => {
    const of = (format: string, frames: number) =>
      card({ state: 'ready', report: { ...report, frames, reused: 0 }, settings: { ...render.settings, format } })
    const still = of('png-still', 1)
    expect(still.text()).toContain('1920 × 1080, PNG still, good')
    expect(still.text()).toContain('Checked: 1 picture, 5.0 MB')
    await button(still, 'Show').trigger('click')
    expect(still.find('img[src="/api/renders/r1/file"]').exists()).toBe(true)
    const sound = of('opus', 300)
    expect(sound.text()).toContain('For uploadOpus, good')
    expect(sound.text()).toContain('Checked: 10.00 s, 5.0 MB')
    expect(of('gif', 1).text()).toContain('1 frame, 10.00 s')
  })

  it('shows what is in it: streams, pictures along it, and how bits and loudness go', async () => {
    const settings = { ...render.settings, expected: { bytes: 4_000_000, seconds: 62 } }
    const ready = card({ state: 'ready', report: { ...report, reused: 0 }, settings })
    await button(ready, 'What is in it').trigger('click')
    await flushPromises()
    expect(ready.text()).toContain('H.264 · 1920 × 1080, 30 frames/s')
    expect(ready.get('img[alt="Pictures along the film"]').attributes('src')).toBe('/api/renders/r1/strip')
    const curves = ready.findAllComponents(CurveChart).map((curve) => curve.get('[role=img]').attributes('aria-label'))
    expect(ready.text()).toContain('4.0 MB were expected, it is 25 % more; about 62 s to make it, it took 50 % less.')
    expect(curves).toEqual(['Data: 125 KB/s to 375 KB/s', 'Loudness: −20.0 LUFS to −14.0 LUFS'])
  })

  it('says how far off the time was that was told for as many parts as there were', async () => {
    const words = async (made: number | undefined, reused: number) => {
      const settings = { ...render.settings, expected: { bytes: 4_000_000, seconds: 62, made } }
      const ready = card({ state: 'ready', report: { ...report, reused }, settings })
      await button(ready, 'What is in it').trigger('click')
      await flushPromises()
      return ready.text()
    }
    expect(await words(3, 3)).toContain('62 s to make it')
    for (const [made, reused] of [
      [3, 4],
      [3, 0],
      [undefined, 2],
    ] as const)
      expect(await words(made, reused)).not.toContain('to make it')
  })
})

describe('how long a render takes', () => {
  const shape = { width: 1920, height: 1080, rate: { num: 30, den: 1 }, quality: 'good' as const, sound: true }
  const done = (change: object): TimedRender => ({
    ...{ ...shape, seconds: 60, reelId: 'a', took: 120, chunks: 15, reused: 0, ...change },
  })
  const wanted = { ...shape, seconds: 30 }

  it('goes by what those of the same reel took, else by those of others, and by the kind of file', () => {
    expect(estimateSeconds(wanted, 'a', [])).toBeNull()
    expect(estimateSeconds(wanted, 'a', [done({})])).toEqual({ seconds: 60, bySameReel: true })
    const others = [done({ reelId: 'b' }), done({ reelId: 'c', took: 60 }), done({ reelId: 'd', took: 240 })]
    expect(estimateSeconds(wanted, 'a', others)).toEqual({ seconds: 60, bySameReel: false })
    expect(estimateSeconds({ ...wanted, format: 'webm-av1' }, 'a', others)).toBeNull()
    // A quarter of the pixels takes a quarter of the time.
    expect(estimateSeconds({ ...wanted, width: 960, height: 540 }, 'a', [done({})])!.seconds).toBe(15)
  })

  it('counts only what was made', () => {
    expect(estimateSeconds(wanted, 'a', [done({ took: 40, reused: 10 })])!.seconds).toBeCloseTo(60)
    expect(estimateSeconds(wanted, 'a', [done({ took: 2, reused: 15 })])).toBeNull()
  })

  it('is told beside how it came out', () => {
    expect([offBy(100, 112), offBy(100, 75), offBy(100, 100.2)]).toEqual(['12 % more', '25 % less', 'as expected'])
  })
})

describe('a curve over a file', () => {
  it('leaves gaps where nothing is known', () => {
    const values = [1, 2, null, 4, 5]
    const curve = mount(CurveChart, { props: { label: 'Data', values, seconds: 4.2, show: String } })
    const path = curve.findAll('path').at(-1)!.attributes('d')!
    expect(path.match(/M/g)).toHaveLength(2)
    // Its last value is for a part of a second.
    expect(curve.text()).toContain('0:04')
    const empty = mount(CurveChart, { props: { label: 'Data', values: [null, null], seconds: 2, show: String } })
    expect(empty.get('[role=img]').attributes('aria-label')).toBe('Data: nothing')
  })
})
