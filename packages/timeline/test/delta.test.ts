import { describe, expect, it } from 'vitest'
import { applyDelta, createProject, documentDelta, ENTITY_KINDS, patchSchema } from '../src/index'
import { desk, placePair } from './helpers'

describe('differences between documents', () => {
  it('tell only of what changed, and leave maps without a difference as they are', () => {
    const d = desk()
    const after = placePair(d.project, d.picture1.id, d.voice.id, 0x500, 0, 30).project
    const delta = documentDelta(d.project, after)
    expect(delta).toMatchObject({ name: 'Lantern Night', gone: {} })
    expect(Object.keys('put' in delta ? delta.put : {})).toEqual(['clips'])
    const held = structuredClone(d.project)
    const told = applyDelta(held, delta)
    expect(told).toEqual(after)
    expect(told.assets).toBe(held.assets)
    expect(held).toEqual(d.project)
  })

  it('give another project whole, and refuse a difference to nothing', () => {
    const d = desk()
    let n = 0
    const other = createProject(
      'Tide',
      { width: 1080, height: 1920, rate: { num: 25, den: 1 } },
      () => `00000000-0000-4000-8000-9${String(n++).padStart(11, '0')}`,
    )
    expect(applyDelta(d.project, documentDelta(d.project, other))).toBe(other)
    expect(() => applyDelta(null, documentDelta(d.project, d.project))).toThrow('needs the document')
  })
})

describe('patches', () => {
  it('are known for every kind of entity, so that all of them can be taken back', () => {
    for (const kind of ENTITY_KINDS) {
      const gone = { op: 'entity', kind, id: crypto.randomUUID(), from: null, to: null }
      expect(patchSchema.safeParse(gone).success, kind).toBe(true)
    }
  })
})
