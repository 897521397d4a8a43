import { describe, expect, it } from 'vitest'
import { mount } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import type { Animated, Param, Params } from '@dusk/timeline'
import KeyButtons from '~/features/params/KeyButtons.vue'
import ParamGroups from '~/features/params/ParamGroups.vue'
import NumberField from '~/features/ui/NumberField.vue'
import { evaluate } from '~/features/ui/expression'
import { useNotices } from '~/features/ui/noticesStore'
import {
  AS_REEL,
  fileSize,
  isOtherShape,
  purposeOf,
  PURPOSES,
  renderSettings,
  purposeSettingsSchema,
  type PurposeSettings,
} from '@dusk/interchange'
import { estimateBytes } from '~/features/render/renderChoice'
import { formatBytes, formatWait, sizeFor } from '~/features/ui/sizes'
import { createRingMemory, openRing, readRing, RING_FRAMES, ringSpace, writeRing } from '~/features/player/ring'

describe('what is typed into a number field', () => {
  it('may be a sum with a unit', () => {
    const cases: [string, number | null][] = [
      ['12', 12],
      ['1920/2 px', 960],
      ['-3.5 dB', -3.5],
      ['2*(3+4)', 14],
      ['1,5 s', 1.5],
      ['100 %', 100],
      ['.5', 0.5],
      ['1+', null],
      ['abc', null],
      ['', null],
      ['1/0', null],
      ['(1', null],
    ]
    for (const [text, value] of cases) expect(evaluate(text), text).toBe(value)
  })
})

describe('a number field', () => {
  const field = () =>
    mount(NumberField, { props: { label: 'Across', unit: 'px', value: 10, min: -100, max: 100, initial: 0 } })

  it('keeps a typed sum on leaving, held within its range', async () => {
    const wrapper = field()
    const input = wrapper.get('input')
    await input.trigger('focus')
    await input.setValue('20*2')
    await input.trigger('blur')
    await input.trigger('focus')
    await input.setValue('5000')
    await input.trigger('blur')
    expect(wrapper.emitted('change')).toEqual([[40], [100]])
  })

  it('marks nonsense and goes back to what it was', async () => {
    const wrapper = field()
    const input = wrapper.get('input')
    await input.trigger('focus')
    await input.setValue('soon')
    expect(input.attributes('aria-invalid')).toBe('true')
    await input.trigger('blur')
    expect(input.element.value).toBe('10')
    expect(wrapper.emitted('change')).toBeUndefined()
  })

  it('keeps what it was when nobody can mean what was typed, and says so', async () => {
    setActivePinia(createPinia())
    const wrapper = field()
    const input = wrapper.get('input')
    await input.trigger('focus')
    await input.setValue('1'.repeat(40))
    await input.trigger('blur')
    expect(input.element.value).toBe('10')
    expect(wrapper.emitted('change')).toBeUndefined()
    expect(useNotices().list.at(-1)!.text).toContain('that number is too large. It stays 10')
  })

  it('steps by arrow keys and goes back by a double click', async () => {
    const wrapper = field()
    await wrapper.get('input').trigger('keydown', { key: 'ArrowUp', shiftKey: true })
    await wrapper.get('span').trigger('dblclick')
    expect(wrapper.emitted('change')).toEqual([[20], [0]])
  })
})

describe('sizes', () => {
  it('are even and keep the shape', () => {
    expect(sizeFor({ width: 9, height: 16 }, 1080)).toEqual({ width: 1080, height: 1920 })
    expect(sizeFor({ width: 21, height: 9 }, 720)).toEqual({ width: 1680, height: 720 })
    const reel = { width: 1000, height: 1250, rate: { num: 30, den: 1 } }
    expect(fileSize(AS_REEL, reel)).toEqual({ width: 1000, height: 1250 })
    for (const { settings } of PURPOSES) {
      expect(purposeSettingsSchema.parse(settings)).toEqual(settings)
      const size = fileSize(settings, reel)
      expect((size.width % 2) + (size.height % 2)).toBe(0)
      expect(isOtherShape(size, reel)).toBe(settings.shape !== 'reel')
    }
    const tall = PURPOSES.find(({ id }) => id === 'tallClip')!.settings
    expect(renderSettings(tall, reel, null)).toMatchObject({ width: 1080, height: 1920, fit: 'fill', loudness: -14 })
    // A render made like another is asked for with the same settings.
    for (const { settings } of PURPOSES) {
      const asked = renderSettings({ ...settings, rate: { num: 25, den: 1 } }, reel, null)
      expect(renderSettings(purposeOf(asked, reel), reel, null)).toEqual(asked)
    }
    const fitted = renderSettings({ ...AS_REEL, megabytes: 8, megabits: 4, speed: 'quick' }, reel, null)
    expect(fitted).toMatchObject({ maxBytes: 8_000_000, speed: 'quick' })
    expect(renderSettings(purposeOf(fitted, reel), reel, null)).toEqual(fitted)
    // Purposes that were kept before files could be made to fit are good for as long.
    const copies = (change: Partial<PurposeSettings>) =>
      renderSettings({ ...AS_REEL, streamCopy: true, ...change }, reel, null)
    expect(copies({})).toMatchObject({ streamCopy: true })
    for (const change of [{ megabits: 4 }, { megabytes: 8 }, { format: 'mp4-h265' as const }, { streamCopy: false }])
      expect(copies(change)).not.toHaveProperty('streamCopy')
    const { megabytes: _megabytes, speed: _speed, streamCopy: _streamCopy, ...older } = AS_REEL
    expect(purposeSettingsSchema.parse(older)).toEqual(AS_REEL)
    // What a file can't hold is not asked for.
    const loop = renderSettings({ ...AS_REEL, format: 'gif', megabits: 4, alpha: true }, reel, null)
    expect(loop).toMatchObject({ sound: false, dither: 'fine' })
    expect(Object.keys(loop)).not.toEqual(expect.arrayContaining(['bitrate', 'alpha', 'chapters']))
  })

  it('are shown in words', () => {
    expect([0, 999, 1500, 12_345_678, 5e9].map(formatBytes)).toEqual(['0 B', '999 B', '1.5 KB', '12.3 MB', '5.0 GB'])
    expect([0.4, 20, 300, 9000].map(formatWait)).toEqual(['a moment', 'about 20 s', 'about 5 min', 'about 2.5 h'])
    const rate = { num: 30, den: 1 }
    const shape = { rate, seconds: 10, quality: 'good' as const, sound: true }
    const [large, small] = [
      { ...shape, width: 1920, height: 1080 },
      { ...shape, width: 1280, height: 720 },
    ]
    expect(estimateBytes(large, null)![1]).toBeGreaterThan(estimateBytes(small, null)![1])
    // Going by a file of the same reel, its own size comes out again, and twice as long is nearly twice as large.
    const made = { ...large, bytes: 2_700_000 }
    expect(estimateBytes(large, made)![0]).toBeCloseTo(2_700_000, 0)
    expect(estimateBytes({ ...large, seconds: 20 }, made)![0]).toBeCloseTo(5_400_000, 0)
    expect(estimateBytes(small, made)![0]).toBeLessThan(estimateBytes(large, made)![0])
    expect(estimateBytes({ ...large, bitrate: 8_000_000 }, null)).toEqual([10_240_000, 10_240_000])
    // A file of another kind says nothing, and of pictures alone nothing can be said.
    expect(estimateBytes({ ...large, format: 'webm-av1' }, made)![0]).toBeLessThan(2_700_000)
    expect(estimateBytes({ ...large, format: 'png-frames' }, null)).toBeNull()
  })
})

describe('the ring between mixing and playing', () => {
  it('gives back what was put in, around its end, and silence when it is empty', () => {
    const ring = openRing(createRingMemory())
    const [left, right] = [new Float32Array(128), new Float32Array(128)]
    let next = 0
    let expected = 0
    for (let turn = 0; turn < 400; turn++) {
      const block = Float32Array.from({ length: 512 }, (_, i) => (i % 2 ? -(next + (i >> 1)) : next + (i >> 1)))
      if (ringSpace(ring) >= 256) {
        writeRing(ring, block)
        next += 256
      }
      for (let i = 0; i < 2; i++) {
        expect(readRing(ring, left, right)).toBe(128)
        expect([left[0], left[127], right[127]]).toEqual([expected, expected + 127, -(expected + 127)])
        expected += 128
      }
    }
    expect(expected).toBeGreaterThan(RING_FRAMES * 2)
    expect(readRing(ring, left, right)).toBe(0)
    expect(left[5]).toBe(0)
  })
})

describe('settings in groups', () => {
  const params: Param[] = [
    { kind: 'number', key: 'border', label: 'Border', group: 'Edge', min: 0, max: 100, default: 0, unit: 'px' },
    { kind: 'colour', key: 'borderColour', needs: 'border', label: 'Border colour', group: 'Edge', default: '#f3ece2' },
    {
      kind: 'choice',
      key: 'fill',
      label: 'Fill',
      group: 'Edge',
      default: 'plain',
      options: [
        { value: 'plain', label: 'Plain' },
        { value: 'gradient', label: 'Gradient' },
      ],
    },
    { kind: 'colour', key: 'colour2', needs: 'fill', label: 'To', group: 'Edge', default: '#ff9e5e' },
  ]
  const labels = (values: Params) => {
    const stubs = { ParamField: { props: ['param'], template: '<i>{{ param.label }}</i>' } }
    const wrapper = mount(ParamGroups, { props: { params, values, time: 0, open: ['Edge'] }, global: { stubs } })
    return wrapper.findAll('i').map((field) => field.text())
  }

  it('are shown once what they depend on is set, or they are themselves', () => {
    expect(labels({})).toEqual(['Border', 'Fill'])
    expect(labels({ border: 4 })).toEqual(['Border', 'Border colour', 'Fill'])
    expect(labels({ border: { keys: [{ at: 0, value: 0, ease: 'both' }] } })).toEqual([
      'Border',
      'Border colour',
      'Fill',
    ])
    expect(labels({ fill: 'gradient' })).toEqual(['Border', 'Fill', 'To'])
    expect(labels({ fill: 'plain', borderColour: '#000000' })).toEqual(['Border', 'Border colour', 'Fill'])
  })

  it('are reset as a whole', async () => {
    const wrapper = mount(ParamGroups, {
      props: { params, values: { border: 4 }, time: 0, open: [] },
      global: { stubs: { ParamField: true } },
    })
    await wrapper.get('[aria-label="Reset Edge"]').trigger('click')
    expect(wrapper.emitted('change')?.at(-1)).toEqual([{ border: null, borderColour: null, fill: null }])
  })
})

describe('the keyframes of a number', () => {
  const keyed: Animated = {
    keys: [
      { at: 0, value: 50, ease: 'both' },
      { at: 1000, value: 80, ease: 'both' },
    ],
  }
  const at = (time: number, value: Animated) => mount(KeyButtons, { props: { label: 'Size', value, time } })

  it('offer the first one where there is none, with nowhere to go', async () => {
    const plain = at(500, 50)
    expect(plain.findAll('button')).toHaveLength(1)
    await plain.get('[aria-label="Set a keyframe of Size"]').trigger('click')
    expect(plain.emitted('toggle')).toHaveLength(1)
  })

  it('go to the one before and the one after, and say where one is', async () => {
    const between = at(500, keyed)
    await between.get('[aria-label="Next keyframe of Size"]').trigger('click')
    await between.get('[aria-label="Previous keyframe of Size"]').trigger('click')
    expect(between.emitted('go')).toEqual([[1000], [0]])
    const last = at(1000, keyed)
    expect(last.get('[aria-label="Remove the keyframe of Size"]').attributes('aria-pressed')).toBe('true')
    expect(last.get('[aria-label="Next keyframe of Size"]').attributes('disabled')).toBeDefined()
  })
})
