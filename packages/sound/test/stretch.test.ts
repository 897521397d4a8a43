import { describe, expect, it } from 'vitest'
import { TICKS_PER_SAMPLE, type SoundTimePlan, type TimeMap } from '@dusk/timeline'
import { Mixer, pieceSources, stretchEngines } from '../src/index'
import { apart, level, mixed, piece, pitchOf, plan, RATE, side, signal, tone } from './tools'

const engines = stretchEngines()
const ticks = (seconds: number) => seconds * RATE * TICKS_PER_SAMPLE
const time = (speed: number, more: Partial<SoundTimePlan> = {}): SoundTimePlan => ({
  map: { kind: 'constant', source: 0, speed },
  pitch: 'keep',
  shift: 0,
  engine: 'music',
  ...more,
})
let names = 0
/** A piece of `seconds` that plays stretched; each is another source, so that nothing is kept from before. */
const stretched = (plan_: SoundTimePlan, seconds = 3, more = {}) =>
  plan([piece({ assetId: `s${names++}`, length: RATE * seconds, time: plan_, ...more })])
const cents = (a: number, b: number) => 1200 * Math.log2(a / b)
const middle = (block: Float32Array) => side(block).slice(RATE, RATE * 2)

describe('stretched sound', () => {
  it('keeps its pitch within ten cents', async () => {
    for (const engine of ['music', 'speech'] as const)
      for (const speed of [0.5, 1.5, 2]) {
        const out = await mixed(stretched(time(speed, { engine })), tone(220), { engines })
        expect(Math.abs(cents(pitchOf(middle(out), 220), 220)), `${engine} ${speed}`).toBeLessThan(10)
        expect(
          Math.abs(level(middle(out)) - level(side(await mixed(plan([piece()]), tone(220))))),
          engine,
        ).toBeLessThan(1.5)
      }
  })

  it('is shifted by semitones at any speed', async () => {
    for (const engine of ['music', 'speech'] as const)
      for (const [speed, shift] of [
        [1, 7],
        [1.5, -5],
      ] as const) {
        const wanted = 220 * 2 ** (shift / 12)
        const out = await mixed(stretched(time(speed, { shift, engine })), tone(220), { engines })
        expect(Math.abs(cents(pitchOf(middle(out), wanted), wanted)), `${engine} ${shift}`).toBeLessThan(15)
      }
  })

  it('goes with the speed like a tape where that is wanted', async () => {
    const out = await mixed(stretched(time(1.5, { pitch: 'follow' })), tone(220), { engines })
    expect(Math.abs(cents(pitchOf(middle(out), 330), 330))).toBeLessThan(1)
    // What would be beyond hearing does not come back as something else.
    const high = await mixed(stretched(time(3, { pitch: 'follow' })), tone(15_000), { engines })
    expect(level(middle(high))).toBeLessThan(-60)
  })

  it('is where the picture is: a beep keeps its place at every speed, backwards and along a curve', async () => {
    const beepAt = 2
    const beep = signal((n) => (Math.abs(n - beepAt * RATE) < 1200 ? Math.sin(n / 6) : 0))
    const ramp: TimeMap = {
      kind: 'ramp',
      source: 0,
      backwards: false,
      points: [
        { at: 0, speed: 0.5, ease: 'linear' },
        { at: ticks(2), speed: 2, ease: 'linear' },
      ],
    }
    const cases: [SoundTimePlan, number][] = [
      [time(0.5), 4],
      [time(2.5), 0.8],
      [time(2, { engine: 'speech' }), 1],
      [time(0.7, { engine: 'speech' }), 2 / 0.7],
      [time(-1, { map: { kind: 'constant', source: ticks(3), speed: -1 } }), 1],
      // Half of t plus three quarters of t²/2 … 0.5 t + 0.375 t² = 2 at t = 1.7376.
      [time(1, { map: ramp }), 1.7376],
      [time(1, { map: ramp, engine: 'speech' }), 1.7376],
    ]
    for (const [planned, expected] of cases) {
      const out = side(await mixed(stretched(planned, 5), beep, { engines }))
      let [sum, weight] = [0, 0]
      for (const [i, value] of out.entries()) [sum, weight] = [sum + i * value * value, weight + value * value]
      expect(Math.abs(sum / weight / RATE - expected), JSON.stringify(planned)).toBeLessThan(0.02)
    }
  })

  it('keeps clicks sharp with the engine for speech', async () => {
    const clicks = signal((n) => (n % 24_000 < 40 ? Math.sin(n) * (1 - (n % 24_000) / 40) : 0))
    const out = side(await mixed(stretched(time(0.8, { engine: 'speech' }), 3), clicks, { engines }))
    // Almost all of a click lies within three milliseconds.
    const loudest = out.reduce((best, value, i) => (Math.abs(value) > Math.abs(out[best]!) ? i : best), 0)
    const energy = (from: number, to: number) => out.slice(Math.max(0, from), to).reduce((sum, v) => sum + v * v, 0)
    expect(energy(loudest - 72, loudest + 72) / energy(loudest - 4800, loudest + 4800)).toBeGreaterThan(0.85)
  })

  it('comes out alike wherever play begins', async () => {
    const planned = stretched(time(1.3), 6)
    const whole = await mixed(planned, tone(311), { engines })
    const from = RATE * 3 + 77
    const sought = await mixed(planned, tone(311), { engines, from, count: RATE })
    expect(apart(whole.slice(from * 2, (from + RATE) * 2), sought)).toBeLessThan(-120)
  })

  it('is silent without an engine, and beyond what its source holds', async () => {
    expect(level(await mixed(stretched(time(2)), tone(220)))).toBeLessThan(-190)
    const far = time(1, { map: { kind: 'constant', source: -ticks(30), speed: 1.2 } })
    expect(level(await mixed(stretched(far), tone(220), { engines }))).toBeLessThan(-100)
  })
})

describe('what was stretched', () => {
  it('is kept by what the source holds, and not kept of a source that is not there yet', async () => {
    const planned = stretched(time(1.5))
    let there = false
    const read = tone(220)
    const reader: typeof read = (asset, stream, from, count) =>
      there ? read(asset, stream, from, count) : Promise.resolve({ channels: 1, samples: new Float32Array(0) })
    const heard = async (content: string | null) => {
      const mixer = new Mixer(
        planned,
        pieceSources(reader, engines, () => content),
      )
      return level(side(await mixer.render(RATE)))
    }
    expect(await heard(null)).toBeLessThan(-100)
    there = true
    expect(await heard('one file')).toBeGreaterThan(-30)
    there = false
    // The same content is not read again; other content is.
    expect(await heard('one file')).toBeGreaterThan(-30)
    expect(await heard('another file')).toBeLessThan(-100)
  })
})
