import { describe, expect, it } from 'vitest'
import { paramsSchema, resolveParams } from '@dusk/timeline'
import { compressed, Loudness, noisePrint, SOUND_EFFECTS, SOUND_FAMILIES, soundEffect } from '../src/index'
import { apart, highestBetween, level, mixed, noiseAt, piece, plan, RATE, side, signal, tone } from './tools'

/** What an effect makes of a signal. */
const through = (kind: string, settings: object, read: ReturnType<typeof signal>, seconds = 2, strength = 100) =>
  mixed(
    plan([piece({ length: RATE * seconds })], {
      reel: { gain: 0, effects: [{ id: 'e', kind, settings: settings as never, strength }] },
    }),
    read,
  )
const half = (block: Float32Array) => block.subarray(block.length / 2)
/** Decibels that an effect adds to a tone, once it has settled. */
const change = async (kind: string, settings: object, hz: number, amplitude = 0.05) =>
  level(half(await through(kind, settings, tone(hz, amplitude)))) - 20 * Math.log10(amplitude / Math.SQRT2)

describe('every sound effect', () => {
  it('is one of at least sixteen, with at least forty presets, all within their settings', () => {
    expect(SOUND_EFFECTS.length).toBeGreaterThanOrEqual(16)
    expect(SOUND_EFFECTS.flatMap(({ presets }) => presets).length).toBeGreaterThanOrEqual(40)
    const names = new Set<string>()
    for (const kind of SOUND_EFFECTS) {
      expect(SOUND_FAMILIES.some(({ id }) => id === kind.family)).toBe(true)
      expect((kind.latency ?? 0) % 128).toBe(0)
      for (const { id, settings } of kind.presets) {
        expect(names.has(id), id).toBe(false)
        names.add(id)
        expect(paramsSchema(kind.params).safeParse(settings).success, id).toBe(true)
        expect(Object.keys(settings).length, id).toBeGreaterThan(0)
      }
    }
  })

  it('changes what is heard with each preset, and stays finite at both ends of every setting', async () => {
    // Words over a quiet room, and then the room alone.
    const voice = signal(
      (n) =>
        (n < 24_000 ? 2 : 0.002) * (0.4 * Math.sin(n / 30) * Math.sin(n / 4000) + 0.2 * noiseAt(n)) +
        0.002 * Math.sin(n / 3),
    )
    const dry = await mixed(plan([piece({ length: RATE })]), voice)
    for (const kind of SOUND_EFFECTS) {
      for (const { id, settings } of kind.presets) {
        const out = await through(kind.id, settings, voice, 1)
        // A mono signal is as wide as it can be: width has nothing to hold on to.
        if (kind.id !== 'width') expect(apart(out, dry), `${kind.id} ${id}`).toBeGreaterThan(-60)
        expect(out.every(Number.isFinite), id).toBe(true)
      }
      for (const end of ['min', 'max'] as const) {
        const settings = Object.fromEntries(
          kind.params.flatMap((param) => (param.kind === 'number' ? [[param.key, param[end]]] : [])),
        )
        const out = await through(kind.id, settings, voice, 0.5)
        expect(out.every(Number.isFinite), `${kind.id} at its ${end}`).toBe(true)
      }
    }
  })

  it('is the sound itself at a strength of nothing, however late it works', async () => {
    for (const { id, latency = 0 } of SOUND_EFFECTS) {
      const out = await through(id, {}, tone(330), 0.2, 0)
      const dry = await mixed(plan([piece({ length: RATE * 0.2 })]), tone(330))
      expect(
        apart(out.subarray(0, out.length - latency * 2), dry.subarray(0, dry.length - latency * 2)),
        id,
      ).toBeLessThan(-120)
    }
  })

  it('keeps silence silent', async () => {
    for (const { id } of SOUND_EFFECTS)
      expect(
        level(
          await through(
            id,
            {},
            signal(() => 0),
            0.3,
          ),
        ),
        id,
      ).toBeLessThan(-190)
  })
})

describe('filters', () => {
  it('do what their curves say, within a tenth of a decibel', async () => {
    for (const [kind, settings] of [
      ['equaliser', { gain1: 6, gain2: -9, hz2: 400, q2: 2, gain4: 5, gain5: -6 }],
      ['highPass', { hz: 200, slope: 'steep' }],
      ['lowPass', { hz: 3000 }],
      ['hum', { harmonics: 3 }],
    ] as const) {
      const found = soundEffect(kind)!
      const curve = found.response!(resolveParams(found.params, settings as never, 0))
      for (const hz of [60, 150, 400, 1000, 3000, 9000])
        expect(
          Math.abs(Math.max(-40, await change(kind, settings, hz)) - Math.max(-40, curve(hz))),
          `${kind} at ${hz}`,
        ).toBeLessThan(0.1)
    }
  })

  it('take hum away and leave what lies beside it', async () => {
    expect(await change('hum', {}, 50)).toBeLessThan(-25)
    expect(Math.abs(await change('hum', {}, 75))).toBeLessThan(1.5)
  })
})

describe('dynamics', () => {
  it('follow the static curve', async () => {
    const settings = { threshold: -30, ratio: 4, knee: 0, attack: 0.1, release: 2000 }
    for (const db of [-40, -24, -12, -3]) {
      const amplitude = 10 ** (db / 20)
      const out = side(half(await through('compressor', settings, tone(1000, amplitude))))
      const peak = 20 * Math.log10(out.reduce((most, value) => Math.max(most, Math.abs(value)), 0))
      expect(Math.abs(peak - compressed(db, -30, 4, 0)), String(db)).toBeLessThan(0.1)
    }
    expect(compressed(-30, -30, 4, 12)).toBeCloseTo(-31.125, 9)
  })

  it('the compressor keeps to its curve whatever its attack and release, down to low tones', async () => {
    for (const hz of [60, 110, 1000])
      for (const [attack, release] of [
        [1, 20],
        [10, 150],
        [100, 150],
        [200, 30],
      ]) {
        const settings = { threshold: -30, ratio: 4, knee: 0, attack, release }
        const out = side(half(await through('compressor', settings, tone(hz, 10 ** (-10 / 20)))))
        const peak = 20 * Math.log10(out.reduce((most, value) => Math.max(most, Math.abs(value)), 0))
        expect(Math.abs(peak - compressed(-10, -30, 4, 0)), `${hz} Hz, ${attack} and ${release} ms`).toBeLessThan(0.2)
      }
  })

  it('let nothing over the ceiling, between samples too', async () => {
    // A quarter of the sample rate, an eighth of a turn off: its samples miss its peaks by 3 dB.
    const between = signal((n) => (n < 20_000 ? 0.2 : 1.6) * Math.sin((Math.PI / 2) * n + Math.PI / 4))
    for (const read of [between, signal((n) => 1.5 * noiseAt(n)), tone(997, 2)]) {
      const out = side(await through('limiter', { ceiling: -1 }, read, 1))
      const most = highestBetween(out)
      expect(20 * Math.log10(most)).toBeLessThan(-0.9)
      expect(20 * Math.log10(most)).toBeGreaterThan(-2.5)
    }
    expect(Math.abs(await change('limiter', { ceiling: -1 }, 1000))).toBeLessThan(0.01)
  })

  it('close the gate in quiet and open it in time', async () => {
    const word = signal((n) => (n > RATE && n < RATE * 1.4 ? 0.3 : 0.001) * Math.sin(n / 10))
    const out = await through('gate', { threshold: -40, range: 40, release: 60, hold: 50 }, word, 2)
    const part = (from: number, to: number) => level(out.slice(RATE * 2 * from, RATE * 2 * to))
    const dry = await mixed(plan([piece({ length: RATE * 2 })]), word)
    const plain = (from: number, to: number) => level(dry.slice(RATE * 2 * from, RATE * 2 * to))
    expect(part(0.6, 0.9) - plain(0.6, 0.9)).toBeLessThan(-38)
    expect(Math.abs(part(1.05, 1.35) - plain(1.05, 1.35))).toBeLessThan(0.2)
  })

  it('hold sharp sounds down and leave the vowel', async () => {
    expect(await change('deEsser', { threshold: -40, most: 12 }, 9000, 0.3)).toBeLessThan(-8)
    expect(Math.abs(await change('deEsser', { threshold: -40, most: 12 }, 400, 0.3))).toBeLessThan(0.5)
  })
})

describe('repair and space', () => {
  it('learns noise and takes it away, and leaves a voice above it', async () => {
    const hiss = signal((n) => 0.01 * noiseAt(n))
    const print = noisePrint(Float32Array.from({ length: RATE }, (_, n) => 0.01 * noiseAt(n + 9999)))
    const quiet = half(await through('noise', { print, amount: 80, keep: 5 }, hiss))
    expect(level(quiet) - level(half(await mixed(plan([piece({ length: RATE * 2 })]), hiss)))).toBeLessThan(-12)
    expect(Math.abs(await change('noise', { print, amount: 80, keep: 5 }, 700, 0.25))).toBeLessThan(0.5)
  })

  it('takes noise that it was never shown', async () => {
    const hiss = signal((n) => 0.01 * noiseAt(n))
    const out = half(await through('noise', { amount: 80, keep: 5 }, hiss, 4))
    expect(level(out) - level(half(await mixed(plan([piece({ length: RATE * 4 })]), hiss)))).toBeLessThan(-6)
  })

  it('dies away in the time that is set', async () => {
    const burst = signal((n) => (n < 4800 ? noiseAt(n) : 0))
    for (const decay of [0.6, 2]) {
      const out = await through('reverb', { decay, size: 80, mix: 100, dull: 18_000 }, burst, 4)
      const at = (second: number) =>
        level(out.slice(Math.round(RATE * 2 * second), Math.round(RATE * 2 * (second + 0.1))))
      const drop = at(0.3) - at(0.3 + decay / 3)
      expect(drop).toBeGreaterThan(14)
      expect(drop).toBeLessThan(27)
    }
  })

  it('sends an echo after the time that is set', async () => {
    const click = signal((n) => (n === 100 ? 1 : 0))
    const out = side(await through('echo', { time: 250, feedback: 0, mix: 100, dull: 20_000 }, click, 1))
    let loudest = 200
    for (let i = 200; i < out.length; i++) if (Math.abs(out[i]!) > Math.abs(out[loudest]!)) loudest = i
    expect(Math.abs(loudest - 100 - 12_000)).toBeLessThan(4)
  })
})

describe('loudness after a limiter', () => {
  it('rises as it was made louder by', async () => {
    const meter = new Loudness()
    meter.push(await through('limiter', { drive: 12, ceiling: -1 }, tone(1000, 0.05), 4))
    const dry = new Loudness()
    dry.push(await mixed(plan([piece({ length: RATE * 4 })]), tone(1000, 0.05)))
    expect(meter.integrated()! - dry.integrated()!).toBeCloseTo(12, 1)
  })
})

describe('voice only', () => {
  /** Syllables of a voice: harmonics of 130 Hz that glide, through two formants, three a second. */
  const spoken = (n: number) => {
    const t = n / RATE
    const open = Math.max(0, Math.sin(2 * Math.PI * 1.5 * t)) ** 0.7
    let sum = 0
    for (let k = 1; k <= 30; k++) {
      const hz = 130 * k
      const formants = 1 / (1 + ((hz - 600) / 200) ** 2) + 0.5 / (1 + ((hz - 1400) / 300) ** 2)
      sum += formants * Math.sin(2 * Math.PI * k * (130 * t + 3 * Math.sin(2 * Math.PI * 0.8 * t)))
    }
    return 0.12 * open * sum
  }

  it('takes noise away where nobody speaks, and leaves the voice where it was, to the sample', async () => {
    const hiss = signal((n) => (n < RATE * 2 ? spoken(n) : 0) + 0.02 * noiseAt(n))
    const out = side(await through('voiceOnly', { amount: 100 }, hiss, 4))
    const dry = side(await mixed(plan([piece({ length: RATE * 4 })]), hiss))
    const part = (block: Float32Array, from: number, to: number) => level(block.slice(RATE * from, RATE * to))
    expect(part(out, 3, 4) - part(dry, 3, 4)).toBeLessThan(-20)
    expect(Math.abs(part(out, 0.5, 2) - part(dry, 0.5, 2))).toBeLessThan(6)
    const alike = (lag: number) => {
      let sum = 0
      for (let i = RATE; i < RATE * 1.9; i++) sum += out[i + lag]! * dry[i]!
      return sum
    }
    const lags = Array.from({ length: 2001 }, (_, i) => i - 1000)
    const best = lags.reduce((found, lag) => (alike(lag) > alike(found) ? lag : found), 0)
    expect(best).toBe(0)
  })

  it('is as much as is wanted, and nothing of it is the sound itself', async () => {
    const noisy = signal((n) => spoken(n) + 0.02 * noiseAt(n))
    const dry = await mixed(plan([piece({ length: RATE })]), noisy)
    expect(apart(await through('voiceOnly', { amount: 0 }, noisy, 1), dry)).toBeLessThan(-120)
    const [some, all] = [
      apart(await through('voiceOnly', { amount: 40 }, noisy, 1), dry),
      apart(await through('voiceOnly', { amount: 100 }, noisy, 1), dry),
    ]
    expect(all - some).toBeCloseTo(20 * Math.log10(100 / 40), 1)
  })
})

describe('pitch shift', () => {
  /** Frequency of a tone by its zero crossings, Hz. */
  const frequency = (block: Float32Array): number => {
    const rises: number[] = []
    for (let i = 1; i < block.length; i++)
      if (block[i - 1]! < 0 && block[i]! >= 0) rises.push(i - block[i]! / (block[i]! - block[i - 1]!))
    const gaps = rises.slice(1).map((at, i) => at - rises[i]!)
    return RATE / gaps.sort((a, b) => a - b)[gaps.length >> 1]!
  }

  it('brings a tone to another, within ten cents, as loud as it was', async () => {
    for (const semitones of [-7, -3, 4, 12]) {
      const out = side(half(await through('pitch', { semitones }, tone(330, 0.3))))
      const cents = 1200 * Math.log2(frequency(out) / 330) - semitones * 100
      expect(Math.abs(cents), `${semitones}`).toBeLessThan(10)
      expect(Math.abs(level(out) - 20 * Math.log10(0.3 / Math.SQRT2)), `${semitones}`).toBeLessThan(1)
    }
  })

  it('is where the sound is: what is held back is made up for', async () => {
    const click = signal((n) => (n > RATE && n < RATE + 2400 ? 0.5 * Math.sin(n / 8) : 0))
    const out = side(await through('pitch', { semitones: 2 }, click))
    const first = out.findIndex((value) => Math.abs(value) > 0.05)
    expect(Math.abs(first - RATE) / 48).toBeLessThan(20)
  })
})
