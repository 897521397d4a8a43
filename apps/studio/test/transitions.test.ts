import { describe, expect, it } from 'vitest'
import type { CommandInput, Transition } from '@dusk/timeline'
import { useActionList } from '~/features/registry/feature'
import FadeHandles from '~/features/transitions/FadeHandles.vue'
import { nearestCut, withSound } from '~/features/transitions/cuts'
import { useTransitionActions } from '~/features/transitions/useTransitionActions'
import { useTransitions } from '~/features/transitions/transitionsStore'
import { typedLength } from '~/features/ui/typedLength'
import { openDesk } from './tools/desk'
import { SECOND } from './tools/server'

const frame = SECOND / 30
const RATE = { num: 30, den: 1 }

/** Three shots of 60 frames that touch, each with its sound; what the keys do. */
async function threeShots() {
  const studio = await openDesk()
  const pairs = [0, 60, 120].map((at) => studio.pair(at, 60, 100))
  const act = studio.within(useTransitionActions)
  const list = studio.within(useActionList)
  const press = (actionId: string) => list.find((entry) => entry.id === actionId)!.run()
  const all = () =>
    Object.values(studio.project.document!.transitions).sort(
      (a, b) => a.trackId.localeCompare(b.trackId) || frames(a)[2]! - frames(b)[2]!,
    )
  const frames = ({ before, after, rightId, leftId }: Transition) => {
    const { clips } = studio.project.document!
    const at = rightId ? clips[rightId]!.start : clips[leftId!]!.start + clips[leftId!]!.length
    return [before / frame, after / frame, at / frame]
  }
  const onTrack = (name: string) => {
    const track = Object.values(studio.project.document!.tracks).find((entry) => entry.name === name)!
    return all().filter(({ trackId }) => trackId === track.id)
  }
  const perform = (input: CommandInput) => expect(studio.project.perform(input)).toBe(true)
  return { studio, pairs, act, press, all, frames, onTrack, perform }
}

describe('transitions', () => {
  it('are copied and pasted with kind, settings and the side of the cut they lie on', async () => {
    const { studio, pairs, press, frames, onTrack, perform } = await threeShots()
    const id = crypto.randomUUID()
    const sides = { leftId: pairs[0]![0], rightId: pairs[1]![0], before: 20 * frame, after: 0 }
    perform({
      type: 'addTransitions',
      transitions: [{ id, ...sides, kind: 'dip', settings: { colour: '#ff9e5e' }, missing: 'shorten' }],
    })
    studio.desk.selectTransitions([id])
    press('arrange.copy')
    studio.desk.select([], null)
    studio.player.seek(121 * frame)
    press('arrange.paste')
    const [first, second] = onTrack('Picture 1')
    expect(frames(second!)).toEqual([20, 0, 120])
    expect(second).toMatchObject({ kind: 'dip', settings: { colour: '#ff9e5e' } })
    expect(first!.id).toBe(id)
    // The sound of the pair is faded at the same place.
    expect(onTrack('Effects').map(frames)).toEqual([[20, 0, 120]])
    expect(studio.desk.transitions.has(second!.id)).toBe(true)
  })

  it('give way to clips that are copied later', async () => {
    const { studio, pairs, act, press } = await threeShots()
    studio.player.seek(60 * frame)
    act.use('dissolve')
    press('arrange.copy')
    expect(studio.within(useTransitions).copied?.kind).toBe('dissolve')
    studio.desk.select([pairs[0]![0]], studio.project.document)
    press('arrange.copy')
    expect(studio.within(useTransitions).copied).toBeNull()
    studio.player.seek(180 * frame)
    press('arrange.paste')
    expect(studio.frames('Picture 1')).toHaveLength(4)
  })

  it('put on every cut keep their side, and leave what is there', async () => {
    const { studio, pairs, act, frames, onTrack, perform } = await threeShots()
    const id = crypto.randomUUID()
    const at = { leftId: pairs[0]![0], rightId: pairs[1]![0], before: 0, after: 12 * frame }
    perform({ type: 'addTransitions', transitions: [{ id, ...at, kind: 'dip', settings: {}, missing: 'shorten' }] })
    act.copyToTrack(studio.project.document!.transitions[id]!)
    expect(onTrack('Picture 1').map(frames)).toEqual([
      [0, 12, 60],
      [0, 12, 120],
    ])
  })

  it('chosen by hand stay when the key puts the standard on all cuts', async () => {
    const { studio, pairs, act, press, onTrack, perform } = await threeShots()
    const id = crypto.randomUUID()
    const at = { leftId: pairs[0]![0], rightId: pairs[1]![0], before: 10 * frame, after: 10 * frame }
    perform({ type: 'addTransitions', transitions: [{ id, ...at, kind: 'flash', settings: {}, missing: 'shorten' }] })
    press('select.all')
    act.use('dissolve')
    expect(onTrack('Picture 1').map(({ kind }) => kind)).toEqual(['flash', 'dissolve'])
    // Once every cut has one, the key says so and changes none.
    studio.desk.select(pairs.flat(), studio.project.document)
    press('select.all')
    act.use('dip')
    expect(onTrack('Picture 1').map(({ kind }) => kind)).toEqual(['flash', 'dissolve'])
  })

  it('dropped on a picture’s cut go to its sound too, and to that alone', async () => {
    const { studio } = await threeShots()
    const { document, reelId } = studio.project
    const track = Object.values(document!.tracks).find(({ name }) => name === 'Picture 1')!
    const cut = nearestCut(document!, track.id, 60 * frame)!
    const names = withSound(document!, reelId, cut).map(({ trackId }) => document!.tracks[trackId]!.name)
    expect(names).toEqual(['Picture 1', 'Effects'])
  })
})

describe('a length that is typed', () => {
  it('means seconds when it is a bare number, as it is shown', () => {
    expect(typedLength('1', RATE, 0)).toBe(SECOND)
    expect(typedLength('0,5', RATE, 0)).toBe(SECOND / 2)
    expect(typedLength('1.00 s', RATE, 0)).toBe(SECOND)
  })

  it('is read as a time otherwise', () => {
    expect(typedLength('12f', RATE, 0)).toBe(12 * frame)
    expect(typedLength('+6f', RATE, SECOND)).toBe(SECOND + 6 * frame)
    expect(typedLength('soon', RATE, 0)).toBeNull()
  })
})

describe('fade handles on a clip', () => {
  it('make, lengthen and take away a fade by being dragged', async () => {
    const { studio, pairs, onTrack } = await threeShots()
    const [last] = pairs[2]!
    studio.desk.linked = false
    studio.desk.selection = new Set([last])
    studio.desk.pixelsPerSecond = 90
    const row = { track: studio.project.document!.tracks[studio.project.document!.clips[last]!.trackId]! }
    const rows = [{ ...row, top: 0, height: 60 }]
    const page = studio.show(FadeHandles, { rows, width: 1200, height: 200 })
    const handle = () => page.get<HTMLElement>('[data-fade$="end"]').element
    const drag = async (by: number) => {
      const at = { button: 0, pointerId: 1, clientY: 5, bubbles: true }
      handle().dispatchEvent(new PointerEvent('pointerdown', { ...at, clientX: 500 }))
      document.dispatchEvent(new PointerEvent('pointermove', { ...at, clientX: 500 + by }))
      document.dispatchEvent(new PointerEvent('pointerup', { ...at, clientX: 500 + by }))
      await page.vm.$nextTick()
    }
    await drag(-45)
    expect(onTrack('Picture 1').map(({ before, after }) => [before / frame, after / frame])).toEqual([[15, 0]])
    await drag(-15)
    expect(onTrack('Picture 1').map(({ before }) => before / frame)).toEqual([20])
    await drag(200)
    expect(onTrack('Picture 1')).toEqual([])
  })
})
