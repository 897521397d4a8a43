import { describe, expect, it } from 'vitest'
import { DEFAULT_KEYS, SHIPPED } from '~/features/shortcuts/defaults'
import { keyName, keyNames } from '~/features/shortcuts/keys'
import { actionByKey, bindingsOf, conflicts, exportSet, importSet } from '~/features/shortcuts/sets'

const press = (key: string, mods: Partial<Record<'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey', boolean>> = {}) =>
  keyName({ key, code: '', ctrlKey: false, metaKey: false, altKey: false, shiftKey: false, ...mods })

describe('names of keys', () => {
  it('say what is pressed, modifiers in one order, Shift only where it is not what makes the sign', () => {
    expect(press('x')).toBe('X')
    expect(press('X', { shiftKey: true })).toBe('Shift X')
    expect(press('?', { shiftKey: true })).toBe('?')
    expect(press(' ')).toBe('Space')
    expect(press(' ', { shiftKey: true })).toBe('Shift Space')
    expect(press('ArrowLeft', { altKey: true, shiftKey: true })).toBe('Alt Shift ←')
    expect(press('z', { metaKey: true })).toBe('Ctrl Z')
    expect(press('Shift', { shiftKey: true })).toBeNull()
  })
})

describe('signs with Shift', () => {
  const typed = (key: string, code: string, more: object = {}) =>
    keyNames({ key, code, ctrlKey: false, metaKey: false, altKey: false, shiftKey: false, ...more })

  it('are found by what they make and by what their key makes alone, on any layout', () => {
    // English: Shift and comma make <. German: they make ;.
    expect(typed('<', 'Comma', { shiftKey: true })).toEqual(['<', 'Shift ,'])
    expect(typed(';', 'Comma', { shiftKey: true })).toEqual([';', 'Shift ,'])
    expect(typed('{', 'BracketLeft', { shiftKey: true })).toEqual(['{', 'Shift ['])
    // German: AltGr makes brackets, and is no Ctrl and no Alt.
    expect(typed('[', 'Digit8', { altGraph: true, ctrlKey: true, altKey: true })).toEqual(['['])
    expect(typed('=', 'Digit0', { shiftKey: true })).toEqual(['=', 'Shift 0'])
  })
})

describe('sets of shortcuts', () => {
  it('ship without a key that has two actions', () => {
    expect([...conflicts(DEFAULT_KEYS)]).toEqual([])
    expect(new Set(Object.values(DEFAULT_KEYS).flat()).size).toBe(actionByKey(DEFAULT_KEYS).size)
  })

  it('change what they name and leave the rest as shipped', () => {
    const stored = { active: 'Mine', sets: { Mine: { 'cut.split': ['B'], 'play.toggle': [] } } }
    const keys = bindingsOf(stored)
    expect(actionByKey(keys).get('B')).toBe('cut.split')
    expect(actionByKey(keys).has('Space')).toBe(false)
    expect(keys['cut.splitAll']).toEqual(DEFAULT_KEYS['cut.splitAll'])
    expect(bindingsOf({ ...stored, active: SHIPPED })).toEqual(DEFAULT_KEYS)
  })

  it('show who wants the same key', () => {
    const keys = { ...DEFAULT_KEYS, 'cut.join': ['M'] }
    expect([...conflicts(keys)]).toEqual([['M', expect.arrayContaining(['cut.join', 'mark.add'])]])
  })

  it('go into a file and come back; actions of another version are named, not kept', () => {
    const text = exportSet('Mine', { 'cut.split': ['B'], 'cut.later': ['Q'] })
    expect(importSet(text, ['cut.split'])).toEqual({
      name: 'Mine',
      keys: { 'cut.split': ['B'] },
      unknown: ['cut.later'],
    })
    expect(() => importSet('{', [])).toThrow('not JSON')
    expect(() => importSet('{"format":"other"}', [])).toThrow('format')
    expect(() => importSet(text.replace('["B"]', '"B"').replace(/\[\s*"B"\s*\]/, '"B"'), ['cut.split'])).toThrow(
      'keys.cut.split',
    )
  })
})
