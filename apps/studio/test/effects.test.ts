import { describe, expect, it } from 'vitest'
import { flushPromises } from '@vue/test-utils'
import { planFrame, type Effect } from '@dusk/timeline'
import EffectsDrawer from '~/features/effects/EffectsDrawer.vue'
import { effects } from '~/features/effects/feature'
import PictureStack from '~/features/effects/PictureStack.vue'
import { openDesk } from './tools/desk'
import { button, typeText } from './tools/fields'
import { SECOND } from './tools/server'

/** A picture of four seconds, selected. */
async function pictureDesk() {
  const d = await openDesk()
  const [picture, sound] = d.pair(0, 120)
  d.desk.select([picture], d.project.document)
  const stack = (ownerId: string): Effect[] =>
    Object.values(d.project.document!.effects)
      .filter((effect) => effect.ownerId === ownerId)
      .sort((a, b) => (a.order < b.order ? -1 : 1))
  return { ...d, picture, sound, stack }
}

describe('the Effects drawer', () => {
  it('puts what is clicked on the selected picture, else on the track, else on the reel', async () => {
    const d = await pictureDesk()
    const drawer = d.show(EffectsDrawer)
    await drawer.find('input[type="search"]').setValue('ember')
    expect(drawer.findAll('li')).toHaveLength(1)
    await drawer.find('li button').trigger('click')
    expect(d.stack(d.picture)).toMatchObject([{ domain: 'picture', kind: 'grade', owner: 'clip', strength: 100 }])
    expect(d.stack(d.picture)[0]!.settings.lights).toBe('#ff9e5e')
    // It is in the plan of the frame, with what was set.
    const plan = planFrame(d.project.document!, d.project.reelId, SECOND, { width: 960, height: 540 })
    expect(plan.layers[0]).toMatchObject({ effects: { stack: [{ kind: 'grade', strength: 1 }], scale: 0.5, time: 1 } })
    expect(plan.passThrough).toBe(false)

    d.desk.select([], null)
    d.desk.selectTrack(d.track('Picture 1').id)
    await drawer.find('input[type="search"]').setValue('mosaic')
    await drawer.find('li button').trigger('click')
    expect(d.stack(d.track('Picture 1').id)).toMatchObject([{ kind: 'mosaic', owner: 'track' }])
    d.desk.select([], null)
    await drawer.find('li button').trigger('click')
    expect(d.stack(d.project.reelId)).toMatchObject([{ kind: 'mosaic', owner: 'reel' }])
    const whole = planFrame(d.project.document!, d.project.reelId, SECOND, { width: 960, height: 540 })
    // What is on the track is drawn as one picture first.
    expect(whole.layers[0]!).toMatchObject({
      kind: 'reel',
      plan: { layers: [{ effects: { stack: [{ kind: 'grade' }] } }], effects: { stack: [{ kind: 'mosaic' }] } },
    })
    expect(whole.effects?.stack).toMatchObject([{ kind: 'mosaic' }])
    await drawer.find('input[type="search"]').setValue('nothing like it')
    expect(drawer.text()).toContain('Nothing is called that')
  })

  it('lets effects be dropped on clips and tracks, and nowhere else', async () => {
    const d = await pictureDesk()
    const { effect } = d.within(() => effects.useDrops!())
    const data = { effect: { kind: 'grain', settings: {} } }
    const place = (name: string, at: number) =>
      ({ track: d.track(name), start: () => at * SECOND, rows: [], at: { x: 0, y: 0 }, input: {} }) as never
    expect(effect!.follow(place('Picture 1', 1), data)).toMatchObject({ words: 'Grain on this clip', refused: false })
    expect(effect!.follow(place('Picture 1', 9), data)).toMatchObject({ words: 'Grain on Picture 1', ghosts: [] })
    expect(effect!.follow(place('Voice', 1), data)).toMatchObject({ refused: true })
    effect!.drop(place('Picture 1', 1), data)
    effect!.drop(place('Voice', 1), data)
    expect(d.stack(d.picture).map(({ kind }) => kind)).toEqual(['grain'])
    expect(Object.keys(d.project.document!.effects)).toHaveLength(1)
  })
})

describe('the stack of a picture', () => {
  it('is switched, ordered, mixed, set and emptied', async () => {
    const d = await pictureDesk()
    const add = (kind: string) =>
      d.project.perform({
        type: 'addEffects',
        owner: 'clip',
        ownerIds: [d.picture],
        effects: [{ domain: 'picture', kind, settings: {}, strength: 100 }],
      })
    const stack = d.show(PictureStack, { owner: 'clip', ownerId: d.picture, time: 0 })
    expect(stack.text()).toContain('None. The Effects drawer has them.')
    add('tone')
    add('blur')
    await flushPromises()
    // What was just put on is open.
    const radius = stack.find('[aria-label^="Radius"]')
    expect(radius.exists()).toBe(true)
    await radius.trigger('focus')
    await radius.setValue('30')
    await radius.trigger('blur')
    expect(d.stack(d.picture)[1]!.settings.radius).toBe(30)
    await stack.findAll('[aria-label="Earlier"]')[1]!.trigger('click')
    expect(d.stack(d.picture).map(({ kind }) => kind)).toEqual(['blur', 'tone'])
    await typeText(stack, 'Strength of Blur', '40')
    expect(d.stack(d.picture)[0]!.strength).toBe(40)
    await stack.find('[aria-label="Light on"]').trigger('change')
    expect(d.stack(d.picture)[1]!.on).toBe(false)
    // What is off is not in the plan.
    const plan = planFrame(d.project.document!, d.project.reelId, 0, { width: 1920, height: 1080 })
    expect(plan.layers[0]).toMatchObject({ effects: { stack: [{ kind: 'blur', strength: expect.closeTo(0.4, 4) }] } })
    await button(stack, 'without').trigger('click')
    expect(d.stack(d.picture).every(({ on }) => !on)).toBe(true)
    await stack.find('[aria-label="Remove Blur"]').trigger('click')
    expect(d.stack(d.picture).map(({ kind }) => kind)).toEqual(['tone'])
  })
})
