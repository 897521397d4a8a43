import { describe, expect, it } from 'vitest'
import { TICKS_PER_SAMPLE, type SoundTimePlan, type TimeMap } from '@dusk/timeline'
import {
  Mixer,
  pieceSources,
  Renewed,
  stretchEngines,
  StretchFailed,
  type StretchEngine,
  type StretchEngines,
} from '../src/index'
import { onsets } from '../src/stretch/onsets'
import { apart, level, mixed, noiseAt, piece, pitchOf, plan, RATE, side, signal, tone } from './tools'

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

  /** A step on planks every half second: it is loudest 0.3 ms after it begins and dies away within ten. */
  const steps = (n: number) => {
    const t = n % 24_000
    return t < 400 ? 0.8 * Math.sin(t / 12) * Math.exp(-t / 60) : 0
  }

  it('keeps steps as sharp as they were, once each, at any speed', async () => {
    for (const speed of [0.5, 0.8, 1.5, 2, 3]) {
      const out = side(await mixed(stretched(time(speed, { engine: 'speech' }), 4), signal(steps), { engines }))
      const apart_ = 24_000 / speed
      let [beside, all] = [0, 0]
      for (const [i, value] of out.entries()) {
        all += value * value
        const since = i % apart_
        if (since > 500 && since < apart_ - 24) beside += value * value
      }
      // What is not the step itself: smeared before it, or heard again after it.
      expect(10 * Math.log10(beside / all), `${speed} ×`).toBeLessThan(-40)
      for (let n = 1; n * apart_ + 24_000 < out.length; n++) {
        const from = Math.round(n * apart_) - 480
        const near = out.slice(from, from + 960).map(Math.abs)
        const peak = near.indexOf(Math.max(...near))
        const begins = near.findIndex((value) => value > near[peak]! * 0.1)
        expect((peak - begins) / 48, `${speed} ×, step ${n}`).toBeLessThan(0.62)
        expect(Math.abs(begins - 480), `${speed} ×, step ${n}`).toBeLessThan(48)
      }
    }
  })

  it('finds onsets in steps over a voice, none in a voice, a tone or noise', () => {
    const stereo = (value: (n: number) => number) =>
      Float32Array.from({ length: RATE * 4 }, (_, i) => value(Math.floor(i / 2)))
    const voice = (n: number) => {
      let sum = 0
      for (let k = 1; k <= 12; k++) sum += Math.sin((2 * Math.PI * 120 * k * n) / RATE) / k
      return 0.05 * sum
    }
    for (const [what, value] of Object.entries({ voice, noise: (n: number) => 0.1 * noiseAt(n) }))
      expect(
        onsets(stereo(value), 0).filter((at) => at > 100),
        what,
      ).toEqual([])
    const found = onsets(
      stereo((n) => voice(n) + steps(n)),
      0,
    )
    for (const at of [24_000, 48_000, 72_000]) expect(found.some((near) => Math.abs(near - at) < 24)).toBe(true)
    // Pieces that begin elsewhere find the same ones.
    const later = stereo((n) => voice(n + 12_345) + steps(n + 12_345))
    const again = onsets(later, 12_345).map((at) => at + 12_345)
    expect(again.slice(0, 3)).toEqual(found.filter((at) => at > 13_545).slice(0, 3))
  })

  it('puts steps back into a voice without a click of its own', async () => {
    const both = (n: number) => 0.1 * Math.sin((2 * Math.PI * 120 * n) / RATE) + steps(n)
    const steepest = (block: Float32Array) =>
      block.reduce((most, value, i) => Math.max(most, Math.abs(value - (block[i - 1] ?? value))), 0)
    const before = steepest(Float32Array.from({ length: RATE }, (_, n) => both(n)))
    for (const speed of [0.6, 1.7]) {
      const out = side(await mixed(stretched(time(speed, { engine: 'speech' }), 3), signal(both), { engines }))
      expect(steepest(out.slice(480)) / before, `${speed} ×`).toBeLessThan(1.2)
    }
  })

  /** How far the loudness of 20 ms lies from that of most, in decibels: farthest below and above. */
  function unsteady(out: Float32Array): [number, number] {
    const levels: number[] = []
    for (let at = RATE / 2; at + 960 < out.length - RATE / 2; at += 480) levels.push(level(out.slice(at, at + 960)))
    const sorted = levels.sort((a, b) => a - b)
    const median = sorted[sorted.length >> 1]!
    return [median - sorted[0]!, sorted.at(-1)! - median]
  }

  it('is as steady as its source, at slow speeds and where its portions meet', async () => {
    for (const engine of ['music', 'speech'] as const)
      for (const hz of [110, 440])
        for (const speed of [0.25, 0.5, 0.8, 2]) {
          const out = side(
            await mixed(
              stretched(time(speed, { engine, map: { kind: 'constant', source: ticks(1), speed } }), 5),
              tone(hz),
              { engines },
            ),
          )
          const [dips, peaks] = unsteady(out)
          expect(dips, `${engine} ${hz} Hz at ${speed} ×`).toBeLessThan(0.8)
          expect(peaks, `${engine} ${hz} Hz at ${speed} ×`).toBeLessThan(0.8)
          expect(Math.abs(level(out.slice(RATE)) - level(side(await mixed(plan([piece()]), tone(hz)))))).toBeLessThan(1)
          // What is made up for at a seam is not heard as another pitch.
          expect(Math.abs(cents(pitchOf(out.slice(RATE * 2, RATE * 3), hz), hz)), `${engine} ${speed}`).toBeLessThan(14)
        }
  })

  it('has no dip in noise where its portions meet', async () => {
    for (const engine of ['music', 'speech'] as const) {
      const loud = Array.from({ length: 12 }, () => 0)
      // The same place of many noises: one alone is never steady.
      for (let n = 0; n < 12; n++) {
        const noise = signal((at) => 0.3 * noiseAt(at + n * 1_000_003))
        const out = side(await mixed(stretched(time(1.4, { engine }), 2.25), noise, { engines }))
        for (let w = 0; w < loud.length; w++) {
          const from = RATE * 2 - 1920 + w * 480
          for (const value of out.slice(from, from + 480)) loud[w]! += value * value
        }
      }
      const levels = loud.map((sum) => 10 * Math.log10(sum))
      expect(Math.min(...levels) - Math.max(...levels), engine).toBeGreaterThan(-2)
    }
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

describe('a stretcher', () => {
  it('takes any speed there is, by the sound and by the sample', async () => {
    const speeds = { music: [0.05, 100], speech: [0.05, 70, -100] }
    for (const engine of ['music', 'speech'] as const)
      for (const speed of speeds[engine]) {
        const seconds = Math.abs(speed) > 1 ? 1 : 3
        const map = { kind: 'constant' as const, source: speed < 0 ? ticks(110) : 0, speed }
        const out = await mixed(stretched(time(1, { engine, map }), seconds), tone(220), { engines })
        expect(out.length, `${engine} ${speed}`).toBe(RATE * seconds * 2)
        const found = side(out).slice(RATE * 0.3, RATE * 0.9)
        expect(level(found), `${engine} ${speed}`).toBeGreaterThan(-30)
        expect(level(found), `${engine} ${speed}`).toBeLessThan(0)
      }
  })

  it('that trapped is thrown away: the sound it was at fails, once, and others get a fresh one', async () => {
    let loads = 0
    let tries = 0
    const module: Renewed<StretchEngine> = new Renewed<StretchEngine>('It', () => {
      const broken = loads++ === 0
      let trapped = false
      const process = (_: Float32Array, count: number) => {
        tries++
        if (broken || trapped) {
          trapped = true
          throw Object.assign(new Error('memory access out of bounds'), { name: 'RuntimeError' })
        }
        return new Float32Array(count * 2).fill(0.5)
      }
      const stretcher = { inputLatency: 0, outputLatency: 0, release: () => {} }
      return Promise.resolve({
        create: () => ({
          ...stretcher,
          process: (input, count): Float32Array => module.run(() => process(input, count)),
        }),
      })
    })
    const given: StretchEngines = { music: () => module.get(), speech: () => module.get() }
    const first = stretched(time(2), 1)
    await expect(mixed(first, tone(220), { engines: given })).rejects.toBeInstanceOf(StretchFailed)
    expect(loads).toBe(1)
    const before = tries
    // Not again, though the module is a fresh one by now.
    await expect(mixed(first, tone(220), { engines: given })).rejects.toBeInstanceOf(StretchFailed)
    expect(tries).toBe(before)
    expect(level(await mixed(stretched(time(2), 1), tone(220), { engines: given }))).toBeGreaterThan(-10)
    expect(loads).toBe(2)
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
