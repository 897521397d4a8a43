import { describe, expect, it, vi } from 'vitest'
import { clipEnd, clipSourceRange, mapTime, secondsToTicks, type Clip } from '@dusk/timeline'
import { useAction } from '~/features/registry/feature'
import ClipSpeed from '~/features/speed/ClipSpeed.vue'
import { layCurve, meanSpeed, SPEED_CURVES } from '~/features/speed/curves'
import { rateMisfit } from '~/features/speed/rateFit'
import { useRateNotice } from '~/features/speed/useRateNotice'
import { useNotices } from '~/features/ui/noticesStore'
import { openDesk } from './tools/desk'
import { typeNumber } from './tools/fields'
import { HARBOUR, SECOND } from './tools/server'

/** A desk with a pair of two seconds at the start, selected, and its details of speed. */
async function pairDesk() {
  const d = await openDesk()
  const [picture, sound] = d.pair(0, 60)
  d.desk.select([picture], d.project.document)
  const clip = (id = picture): Clip => d.project.document!.clips[id]!
  const show = () => d.show(ClipSpeed, { clips: [clip(picture), clip(sound)] })
  const run = (action: string) => d.within(() => useAction(action))()
  return { ...d, picture, sound, clip, show, run }
}
const speedOf = (clip: Clip) => (clip.map.kind === 'constant' ? clip.map.speed : null)

describe('speed in the details', () => {
  it('is typed as a percentage, for the pair, and back', async () => {
    const d = await pairDesk()
    await typeNumber(d.show(), 'Speed, in %', '200')
    expect([speedOf(d.clip()), speedOf(d.clip(d.sound))]).toEqual([2, 2])
    expect(d.clip().length).toBe(SECOND)
    d.project.undo()
    expect(speedOf(d.clip())).toBe(1)
  })

  it('follows from the length that is wished for; what is no length is said', async () => {
    const d = await pairDesk()
    const field = d.show().find('[aria-label="Plays for"]')
    await field.setValue('4s')
    expect(speedOf(d.clip())).toBe(0.5)
    expect(d.clip().length).toBe(4 * SECOND)
    await field.setValue('soon')
    expect(d.said()).toContain('typed as')
  })

  it('says that a sound falls silent at its speed, until it is heard at any', async () => {
    const d = await pairDesk()
    expect(d.show().text()).not.toContain('The sound is silent below')
    await typeNumber(d.show(), 'Speed, in %', '800')
    expect(d.show().text()).toContain('The sound is silent below')
    d.project.perform({ type: 'setParams', clipIds: [d.sound], set: { anySpeed: true } })
    expect(d.show().text()).not.toContain('The sound is silent below')
  })

  it('runs along a ready-made curve over the same footage, and goes back to one speed', async () => {
    const d = await pairDesk()
    const before = clipSourceRange(d.clip())
    const click = (name: string) =>
      d
        .show()
        .findAll('button')
        .find((button) => button.text() === name)!
        .trigger('click')
    await click('Linger')
    expect(d.clip().map).toMatchObject({ kind: 'ramp' })
    const after = clipSourceRange(d.clip())
    expect(Math.abs(after.from - before.from)).toBeLessThan(5)
    expect(Math.abs(after.to - before.to)).toBeLessThan(SECOND / 20)
    expect(d.clip().length).toBeGreaterThan(2 * SECOND)
    await click('One speed for all of it')
    expect(d.clip().map.kind).toBe('constant')
  })
})

describe('speed by keys', () => {
  it('halves, doubles, turns round and comes back', async () => {
    const d = await pairDesk()
    d.run('speed.double')
    d.run('speed.double')
    expect(speedOf(d.clip())).toBe(4)
    d.run('speed.half')
    d.run('speed.reverse')
    expect(speedOf(d.clip())).toBe(-2)
    d.run('speed.own')
    expect(speedOf(d.clip())).toBe(1)
    expect(d.frames('Picture 1')).toEqual([[0, 60]])
  })

  it('fills the gap behind a clip, and says when there is none', async () => {
    const d = await pairDesk()
    d.pair(90, 30)
    d.desk.select([d.picture], d.project.document)
    d.run('speed.fill')
    expect(d.frames('Picture 1')).toEqual([
      [0, 90],
      [90, 30],
    ])
    d.desk.select([d.picture], d.project.document)
    d.run('speed.fill')
    expect(d.said()).toContain('no gap')
  })

  it('says what to select when nothing is', async () => {
    const d = await pairDesk()
    d.desk.select([], null)
    d.run('speed.own')
    expect(d.said()).toContain('Select footage or a sound')
  })
})

describe('ready-made curves', () => {
  it('end where the same footage does, whatever its length', () => {
    for (const curve of SPEED_CURVES) {
      expect(curve.points[0]!.part, curve.id).toBe(0)
      expect(curve.points.at(-1)!.part, curve.id).toBe(1)
      for (const seconds of [0.5, 3, 60]) {
        const footage = secondsToTicks(seconds)
        const points = layCurve(curve, 1000, footage)
        const map = { kind: 'ramp' as const, source: 0, backwards: false, points }
        const shown = mapTime(map, points.at(-1)!.at) - mapTime(map, 1000)
        expect(Math.abs(shown - footage) / footage, curve.id).toBeLessThan(0.001)
      }
      expect(meanSpeed(curve.points)).toBeGreaterThan(0.2)
    }
  })

  it('never leave a clip out of its source', async () => {
    const d = await pairDesk()
    for (const curve of SPEED_CURVES) {
      const { from, to } = clipSourceRange(d.clip())
      d.project.perform({
        type: 'setSpeedCurve',
        clipId: d.picture,
        points: layCurve(curve, d.clip().head, to - from),
      })
      expect(clipSourceRange(d.clip()).from).toBeGreaterThanOrEqual(0)
      expect(clipEnd(d.clip())).toBeGreaterThan(0)
    }
  })
})

describe('footage of another rate than the reel', () => {
  it('is told by how its frames fall', () => {
    const rate = (num: number, den = 1) => ({ num, den })
    expect(rateMisfit(rate(25), rate(30))).toBe('every fifth of its frames is shown twice')
    expect(rateMisfit(rate(24_000, 1001), rate(30))).toBe('every fourth of its frames is shown twice')
    expect(rateMisfit(rate(24), rate(25))).toBe('every 24th of its frames is shown twice')
    expect(rateMisfit(rate(30), rate(25))).toBe('every sixth of its frames is left out')
    expect(rateMisfit(rate(231, 8), rate(30))).toBe('about every 26th of its frames is shown twice')
    expect(rateMisfit(rate(50), rate(30))).toBe('two of every five of its frames are left out')
    expect(rateMisfit(rate(30), rate(50))).toBe('two of every three of its frames are shown twice')
    expect(rateMisfit(rate(60), rate(50))).toBe('every sixth of its frames is left out')
    expect(rateMisfit(rate(60), rate(25))).toContain('by turns')
    for (const [footage, reel] of [
      [30, 30],
      [60, 30],
      [25, 50],
    ] as const)
      expect(rateMisfit(rate(footage), rate(reel))).toBeNull()
    for (const [footage, reel] of [
      [rate(30_000, 1001), rate(30)],
      [rate(60_000, 1001), rate(30)],
      [rate(30), rate(60_000, 1001)],
    ] as const)
      expect(rateMisfit(footage, reel)).toBeNull()
  })

  it('is said once of each source in the reel', async () => {
    const d = await openDesk()
    const film = (name: string, num: number) => {
      const picture = { ...HARBOUR.picture!, rate: { num, den: 1 } }
      const asset = { ...HARBOUR, id: crypto.randomUUID(), name, picture }
      d.project.perform({ type: 'addAsset', asset })
      return asset
    }
    const [asset, other] = [film('old-film.mp4', 24), film('holiday.mp4', 25)]
    d.within(() => useRateNotice())
    const lay = (assetId: string, start: number) =>
      d.project.perform({
        type: 'place',
        mode: 'free',
        pieces: [
          {
            ...{ clipId: crypto.randomUUID(), trackId: d.track('Picture 1').id, assetId, stream: null, link: null },
            ...{ start: start * SECOND, length: SECOND, source: 0 },
          },
        ],
      })
    lay(HARBOUR.id, 0)
    await new Promise((resolve) => setTimeout(resolve, 1000))
    expect(d.said()).toBe('')
    lay(asset.id, 1)
    await vi.waitFor(() => expect(d.said()).toContain('old-film.mp4 has 24 frames/s and this reel 30'), 3000)
    // The next one that comes meanwhile makes one message of the two.
    const notices = useNotices()
    lay(other.id, 2)
    await vi.waitFor(() => expect(d.said()).toContain('2 sources have other frame rates'), 3000)
    expect(d.said()).toContain('such as holiday.mp4 with 25')
    expect(notices.list).toHaveLength(1)
    notices.list = []
    lay(asset.id, 3)
    await new Promise((resolve) => setTimeout(resolve, 1100))
    expect(notices.list).toEqual([])
  })
})

describe('frames made between', () => {
  it('are said to be made, how far they are, and when none are needed', async () => {
    const d = await openDesk()
    const [picture] = d.pair(0, 60)
    d.project.perform({ type: 'setParams', clipIds: [picture], set: { slowMotion: 'made' } as never })
    const section = d.show(ClipSpeed, { clips: [d.project.document!.clips[picture]!] })
    d.project.perform({ type: 'setSpeed', clipIds: [picture], speed: 0.5 })
    await section.setProps({ clips: [d.project.document!.clips[picture]!] })
    expect(section.text()).toContain('Making the frames between, 0 %')
    const state = d.project.sources[HARBOUR.id]!
    const made = (parts: Record<string, number>) =>
      Object.fromEntries(
        Object.entries(parts).map(([name, progress]) => [
          name,
          { state: progress === 1 ? ('ready' as const) : ('working' as const), progress, url: '' },
        ]),
      )
    d.project.sources = { ...d.project.sources, [HARBOUR.id]: { ...state, made: made({ '2.0': 0.5 }) } }
    await section.vm.$nextTick()
    expect(section.text()).toContain('50 %')
    d.project.sources = { ...d.project.sources, [HARBOUR.id]: { ...state, made: made({ '2.0': 1 }) } }
    await section.vm.$nextTick()
    expect(section.text()).toContain('The frames between are made.')
  })
})
