import { flushPromises } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import type { Effect } from '@dusk/timeline'
import CornerHandles from '~/features/effects/CornerHandles.vue'
import EffectsDrawer from '~/features/effects/EffectsDrawer.vue'
import { effects as feature } from '~/features/effects/feature'
import { bareEffects, useEffects } from '~/features/effects/effectsStore'
import { tileGroups } from '~/features/effects/tiles'
import { wordsOf } from '~/features/effects/useQuickFix'
import CurveField from '~/features/params/CurveField.vue'
import { addedPoint, movedPoint, pointsShown } from '~/features/params/curvePoints'
import WheelField from '~/features/params/WheelField.vue'
import ScopesColumn from '~/features/scopes/ScopesColumn.vue'
import { useScopes } from '~/features/scopes/scopesStore'
import { openDesk } from './tools/desk'
import { dragOn, placed } from './tools/pointer'

const NOTHING = { favourites: [], last: [], looks: [] }

/** A picture of four seconds, selected. */
async function pictureDesk() {
  const d = await openDesk()
  const [picture] = d.pair(0, 120)
  d.desk.select([picture], d.project.document)
  const stack = (): Effect[] => Object.values(d.project.document!.effects).sort((a, b) => (a.order < b.order ? -1 : 1))
  const add = (kind: string, settings: object = {}) =>
    d.project.perform({
      ...{ type: 'addEffects', owner: 'clip', ownerIds: [picture] },
      effects: [{ domain: 'picture', kind, settings: settings as never, strength: 100 }],
    })
  return { ...d, picture, stack, add }
}

describe('the gallery of effects', () => {
  it('finds effects by what they are called and do, in families, favourites, what was used last, and own looks', () => {
    const names = (words: string, family = '', kept: Parameters<typeof tileGroups>[2] = NOTHING) =>
      tileGroups(words, family, kept).flatMap(({ tiles }) => tiles.map(({ name }) => name))
    expect(names('green screen')).toContain('Green screen')
    expect(names('model of the quay')).toEqual(['Model of the quay'])
    expect(names('', 'key').length).toBeGreaterThan(3)
    expect(names('', ':favourites', { ...NOTHING, favourites: ['blur/', 'gone/away', 'grain/pushed'] })).toEqual([
      ...['Blur', 'Pushed'],
    ])
    expect(names('', ':last', { ...NOTHING, last: ['tone/punch'] })).toEqual(['More punch'])
    const look = { id: crypto.randomUUID(), name: 'My evening', effects: [{ domain: 'picture', kind: 'tone' }] }
    expect(names('evening', '', { ...NOTHING, looks: [look as never] })).toEqual(['My evening'])
    // A mask comes with a shape: without one it would leave everything or nothing.
    const mask = tileGroups('', 'key', NOTHING)[0]!.tiles.find(({ name }) => name === 'Mask')!
    expect(mask.effects[0]!.mask!.shapes).toHaveLength(1)
  })

  it('remembers favourites and what was used, keeps looks, and puts them on others with their masks', async () => {
    const d = await pictureDesk()
    const drawer = d.show(EffectsDrawer)
    await flushPromises()
    await drawer.find('input[type="search"]').setValue('posterise')
    await drawer.find('input[type="search"]').setValue('few colours')
    await drawer.find('[aria-label="Keep Few colours as a favourite"]').trigger('click')
    await drawer.find('li button').trigger('click')
    await flushPromises()
    const store = useEffects()
    expect(store.preferences.favourites).toEqual(['posterise/'])
    expect(store.preferences.last).toEqual(['posterise/'])
    const shapes = [{ id: crypto.randomUUID(), kind: 'ellipse' as const, mode: 'add' as const, settings: {} }]
    d.project.perform({ type: 'setEffects', effectIds: [d.stack()[0]!.id], set: { mask: { shapes }, strength: 60 } })
    await store.keepLook('My look 1', bareEffects(d.stack()))
    d.project.perform({ type: 'removeEffects', effectIds: [d.stack()[0]!.id] })
    await drawer.find('input[type="search"]').setValue('my look')
    await drawer.find('li button').trigger('click')
    expect(d.stack()).toMatchObject([{ kind: 'posterise', strength: 60, mask: { shapes: [{ kind: 'ellipse' }] } }])
    await drawer.find('[aria-label="Remove My look 1"]').trigger('click')
    await flushPromises()
    expect(store.preferences.looks).toEqual({})
  })

  it('puts effects on the source where that is wanted', async () => {
    const d = await pictureDesk()
    const drawer = d.show(EffectsDrawer)
    await flushPromises()
    await drawer.find('input[type="search"]').setValue('Colour wash')
    await drawer.find('input[type="checkbox"]').setValue(true)
    await drawer.find('li button').trigger('click')
    expect(d.stack()).toMatchObject([{ owner: 'asset', kind: 'wash' }])
  })
})

describe('copying effects', () => {
  it('takes a stack from one shot to another', async () => {
    const d = await pictureDesk()
    const [other] = d.pair(130, 60)
    const actions = d.within(() => feature.useActions!())
    const run = (id: string) => actions.find((action) => action.id === id)!.run()
    d.add('tone', { exposure: 1 })
    d.add('blur')
    run('effects.copy')
    d.desk.select([other], d.project.document)
    run('effects.paste')
    expect(d.stack().filter(({ ownerId }) => ownerId === other)).toMatchObject([
      { kind: 'tone', settings: { exposure: 1 } },
      { kind: 'blur' },
    ])
  })
})

describe('a curve', () => {
  const param = { kind: 'curve', key: 'luma', label: 'All', over: 'tone', default: '' } as const

  it('has points that stay between their neighbours, and not too many', () => {
    const rest = pointsShown('tone', '')
    expect(rest).toEqual([
      [0, 0],
      [1, 1],
    ])
    const { points, index } = addedPoint(rest, [0.5, 0.7])!
    expect(index).toBe(1)
    expect(movedPoint(points, 1, [2, -1])[1]).toEqual([0.99, 0])
    expect(addedPoint(points, [0.501, 0.2])).toBeNull()
    expect(pointsShown('hue', '')).toHaveLength(6)
  })

  it('is drawn by hand: points put in, dragged, taken out, moved by keys', async () => {
    const d = await pictureDesk()
    const field = d.show(CurveField, { param, value: '0,0 1,1' })
    const box = field.find('[role="group"]')
    placed(box.element, new DOMRect(0, 0, 200, 100))
    const given = () => field.emitted<string[]>('change')?.at(-1)?.[0]
    // Sizes come from an observer that this browser of tests has not: the scales are told directly.
    expect(field.findAll('button[aria-label^="Point of All"]')).toHaveLength(2)
    await field.findAll('button[aria-label^="Point of All"]')[1]!.trigger('keydown', { key: 'ArrowDown' })
    expect(given()).toBe('0,0 1,0.99')
    await field.setProps({ value: '0,0 0.5,0.7 1,1' })
    await field.findAll('button[aria-label^="Point of All"]')[1]!.trigger('keydown', { key: 'Delete' })
    // The line that changes nothing is no setting at all.
    expect(given()).toBe('')
  })
})

describe('a colour wheel', () => {
  it('is dragged from where it is, held in its disc, moved by keys and taken back by a double click', async () => {
    const d = await pictureDesk()
    const param = { kind: 'point', key: 't', label: 'Tint', min: -100, max: 100, default: [0, 0], wheel: true } as const
    const field = d.show(WheelField, { param, value: [0, 0] })
    const disc = placed(field.find('button').element, new DOMRect(0, 0, 80, 80))
    const given = () => field.emitted<[number, number][]>('change')?.at(-1)?.[0]
    dragOn(disc, [
      [40, 40],
      [56, 32],
    ])
    expect(given()).toEqual([20, 10])
    dragOn(disc, [
      [40, 40],
      [400, 40],
    ])
    expect(given()).toEqual([100, 0])
    await field.find('button').trigger('keydown', { key: 'ArrowUp', shiftKey: true })
    expect(given()).toEqual([0, 10])
    await field.find('button').trigger('dblclick')
    expect(given()).toEqual([0, 0])
  })
})

describe('four corners', () => {
  it('are dragged on the picture', async () => {
    const d = await pictureDesk()
    d.add('corners')
    const handles = d.show(CornerHandles, { width: 960, height: 540, scale: 0.5, effect: d.stack()[0]! })
    placed(handles.element as HTMLElement, new DOMRect(0, 0, 960, 540))
    dragOn(handles.find('[aria-label="Lower right corner"]').element, [
      [960, 540],
      [768, 432],
    ])
    expect(d.stack()[0]!.settings.lowerRight).toEqual([80, 80])
  })
})

describe('scopes', () => {
  it('are counted while they are open, and no longer', async () => {
    const d = await pictureDesk()
    let watched = 0
    d.player.watchScopes = () => (watched++, () => watched--)
    const column = d.show(ScopesColumn)
    expect(column.find('aside').exists()).toBe(false)
    useScopes().open = true
    await flushPromises()
    expect(watched).toBe(1)
    expect(column.find('aside').exists()).toBe(true)
    useScopes().zebra = true
    await flushPromises()
    expect(d.player.looked).toContainEqual({ zebra: true })
    await column.find('[aria-label="Close the scopes"]').trigger('click')
    await flushPromises()
    expect(watched).toBe(0)
  })
})

describe('the words of a fix', () => {
  it('say what was set, and where nothing was', () => {
    expect(wordsOf({ kind: 'balance', settings: { temperature: -20, tint: 0 } })).toBe('Colour: warmth −20')
    expect(wordsOf({ kind: 'levels', settings: {} })).toBe('Levels: nothing had to be changed')
  })
})
