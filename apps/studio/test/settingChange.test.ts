import { describe, expect, it } from 'vitest'
import { createPinia, setActivePinia } from 'pinia'
import { vi } from 'vitest'
import { useTitles } from '~/features/titles/titlesStore'
import { nextPlace } from '~/features/timeline/nextPlace'
import { settingChangeSchema, withChange } from '~~/shared/settingChange'

describe('changes of a setting', () => {
  it('touch one entry and leave the rest', () => {
    const list = [
      { id: 'a', name: 'A' },
      { id: 'b', name: 'B' },
    ]
    expect(withChange(list, { path: ['b'], value: { id: 'b', name: 'Other' } })).toEqual([
      list[0],
      { id: 'b', name: 'Other' },
    ])
    expect(withChange(list, { path: ['c'], value: { id: 'c' } })).toEqual([...list, { id: 'c' }])
    expect(withChange(list, { path: ['a'] })).toEqual([list[1]])
    expect(withChange(['x', 'y'], { path: ['x'] })).toEqual(['y'])
    expect(withChange({ sets: { Mine: { cut: ['B'] } } }, { path: ['sets', 'Mine', 'play'], value: ['P'] })).toEqual({
      sets: { Mine: { cut: ['B'], play: ['P'] } },
    })
    expect(withChange({ active: 'Dusk' }, { path: ['sets', 'Mine'], value: {} })).toEqual({
      active: 'Dusk',
      sets: { Mine: {} },
    })
  })

  it('take names that objects have of their own for names', () => {
    const changed = withChange({}, { path: ['constructor', 'x'], value: 1 }) as Record<string, unknown>
    expect(Object.hasOwn(changed, 'constructor')).toBe(true)
    expect(withChange({}, { path: ['__proto__'], value: { polluted: true } })).not.toHaveProperty('polluted')
    expect(({} as { polluted?: boolean }).polluted).toBeUndefined()
    expect(settingChangeSchema.safeParse({ path: [] }).success).toBe(false)
  })
})

describe('a title of the person’s own', () => {
  it('is kept beside those from before, also when nothing was read yet', async () => {
    const before = { id: 'old', name: 'From before' }
    let stored: unknown[] = [before]
    vi.stubGlobal('fetch', async (_url: string, init?: RequestInit) => {
      if (init?.method === 'PATCH')
        for (const change of (JSON.parse(String(init.body)) as { changes: never[] }).changes)
          stored = withChange(stored, change) as unknown[]
      return new Response(JSON.stringify({ value: stored }))
    })
    setActivePinia(createPinia())
    await useTitles().keep({ id: 'new', name: 'Fresh' } as never)
    expect(stored).toEqual([before, { id: 'new', name: 'Fresh' }])
    expect(useTitles().own).toHaveLength(2)
  })

  it('is not kept, and nothing is written over, while the server can’t say what there is', async () => {
    const calls: string[] = []
    vi.stubGlobal('fetch', async (_url: string, init?: RequestInit) => {
      calls.push(init?.method ?? 'GET')
      throw new TypeError('network')
    })
    setActivePinia(createPinia())
    await useTitles().keep({ id: 'new', name: 'Fresh' } as never)
    expect(calls).toEqual(['GET'])
  })
})

describe('the next place', () => {
  const rate = { num: 30_000, den: 1001 }
  const frame = (705_600_000 * 1001) / 30_000

  it('is got past, whatever lies between frames', () => {
    const places = [10 * frame + 9_000, 10 * frame + 12_000_000, 20 * frame - 5_000, 30.4 * frame]
    const seen: number[] = []
    let now: number | null = 0
    while ((now = nextPlace(places, now, 1, rate)) !== null) seen.push(Math.round(now / frame))
    expect(seen).toEqual([10, 11, 20, 30])
    const back: number[] = []
    now = 40 * frame
    while ((now = nextPlace(places, now, -1, rate)) !== null) back.push(Math.round(now / frame))
    expect(back).toEqual([30, 20, 11, 10])
  })
})
