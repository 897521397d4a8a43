import { describe, expect, it } from 'vitest'
import { TICKS_PER_SAMPLE, type Params, type SoundPlan } from '@dusk/timeline'
import { noisePrint, panGains, SOUND_EFFECTS, type SoundReader } from '../src/index'
import { apart, level, mixed, noiseAt, piece, plan, RATE, side, signal, tone } from './tools'

const ticks = (sample: number) => sample * TICKS_PER_SAMPLE
const ones = signal(() => 1)

// Streams: 0 counts up in mono, 1 is stereo, 2 is 5.1 with one value a channel.
const counting: SoundReader = async (_asset, stream, from, count) => {
  if (stream === 0) return { channels: 1, samples: Float32Array.from({ length: count }, (_, i) => from + i) }
  if (stream === 1)
    return { channels: 2, samples: Float32Array.from({ length: count * 2 }, (_, i) => (i % 2 ? -1 : 1)) }
  return {
    channels: 6,
    samples: Float32Array.from({ length: count * 6 }, (_, i) => [0.1, 0.2, 0.4, 0.9, 0.3, 0.5][i % 6]!),
  }
}

/** A plan with an effect of every kind on its clip, its track or the reel, and keyframes on what can have them. */
function everything(): SoundPlan {
  const print = noisePrint(Float32Array.from({ length: RATE }, (_, n) => 0.01 * noiseAt(n)))
  const last = SOUND_EFFECTS.filter(({ id }) => id === 'pitch')
  const effects = [...SOUND_EFFECTS.filter((kind) => !last.includes(kind)), ...last].map(({ id }) => ({
    id,
    kind: id,
    settings: (id === 'noise' ? { print } : {}) as Params,
    strength: id === 'echo' ? 60 : 100,
  }))
  const part = (n: number) => effects.filter((_, i) => i % 3 === n)
  const level = {
    keys: [
      { at: 0, value: -12, ease: 'both' as const },
      { at: ticks(RATE * 2), value: 0, ease: 'linear' as const },
    ],
  }
  return plan(
    [
      piece({ length: RATE * 3, level, effects: part(0), abrupt: { start: true, end: true } }),
      piece({ at: RATE, length: RATE * 2, from: 777, pan: level }),
    ],
    { tracks: [{ id: 't', purpose: 'voice', gain: -3, level, effects: part(1) }], reel: { gain: 0, effects: part(2) } },
  )
}

describe('mixing', () => {
  const start = { at: 10, length: 20, from: 100 }

  it('puts each sample where it belongs, whatever the blocks', async () => {
    const planned = plan([piece(start), piece({ stream: 1, at: 25, length: 100, gain: -6.020599913279624 })])
    const whole = await mixed(planned, counting, { count: 40 })
    expect(whole[9 * 2]).toBe(0)
    expect(whole[10 * 2]).toBe(100)
    expect(whole[24 * 2 + 1]).toBe(114)
    expect(whole[25 * 2]).toBeCloseTo(115.5, 5)
    expect(whole[25 * 2 + 1]).toBeCloseTo(114.5, 5)
    expect(await mixed(planned, counting, { count: 40, cuts: [7, 1, 20, 12] })).toEqual(whole)
  })

  it('is silent before a source begins', async () => {
    const out = await mixed(plan([piece({ length: 20, from: -5 })]), counting, { count: 12 })
    expect([...side(out)]).toEqual([0, 0, 0, 0, 0, 0, 1, 2, 3, 4, 5, 6])
  })

  it('folds 5.1 down without its low-frequency channel', async () => {
    const out = await mixed(plan([piece({ stream: 2, length: 1 })]), counting, { count: 1 })
    const h = Math.SQRT1_2
    expect(out[0]).toBeCloseTo(0.1 + 0.4 * h + 0.3 * h, 5)
    expect(out[1]).toBeCloseTo(0.2 + 0.4 * h + 0.5 * h, 5)
  })

  it('sums to one across a straight crossfade', async () => {
    const fade = { length: 1000, shape: 'linear' as const }
    const planned = plan([
      piece({ length: 2000, fades: [{ from: 1000, direction: 'out', ...fade }] }),
      piece({ at: 1000, length: 2000, fades: [{ from: 0, direction: 'in', ...fade }] }),
    ])
    const out = await mixed(planned, ones)
    for (let i = 0; i < 3000; i += 50) expect(out[i * 2]).toBeCloseTo(1, 5)
  })

  it('gives the same samples with every effect at work, however it is cut', async () => {
    const planned = everything()
    const whole = await mixed(planned, signal(noiseAt))
    expect(whole.every(Number.isFinite)).toBe(true)
    expect(level(whole)).toBeGreaterThan(-40)
    expect(await mixed(planned, signal(noiseAt), { cuts: [4800, 1, 333, 12_345] })).toEqual(whole)
  })

  it('sounds alike after a seek once it has run up', async () => {
    const planned = everything()
    planned.pieces = planned.pieces.map((entry) => ({ ...entry, length: entry.length + RATE * 9 }))
    planned.length = RATE * 12
    // Where the pitch is spliced depends on all that was heard before; with waves on top the stacks would have to run
    // up for longer than the eight seconds that are given.
    const still = (effects: SoundPlan['reel']['effects']) =>
      effects?.filter(({ kind }) => !['pitch', 'chorus', 'flutter', 'tremolo'].includes(kind))
    planned.reel.effects = still(planned.reel.effects)
    planned.tracks[0]!.effects = still(planned.tracks[0]!.effects)
    planned.pieces[0]!.effects = still(planned.pieces[0]!.effects)
    const whole = await mixed(planned, tone(220))
    const from = RATE * 10 + 321
    const sought = await mixed(planned, tone(220), { from, count: RATE })
    expect(apart(whole.slice(from * 2, (from + RATE) * 2), sought)).toBeLessThan(-90)
  })

  it('sways the same wherever play begins', async () => {
    for (const kind of ['chorus', 'flutter', 'tremolo']) {
      const effects = [{ id: 'e', kind, settings: {}, strength: 100 }]
      const swaying = plan([piece({ length: RATE * 6 })], { reel: { gain: 0, effects } })
      const whole = await mixed(swaying, tone(220))
      const from = RATE * 4 + 321
      const sought = await mixed(swaying, tone(220), { from, count: RATE })
      expect(apart(whole.slice(from * 2, (from + RATE) * 2), sought), kind).toBeLessThan(-90)
    }
  })

  it('mixes a plan of a part as a part of the whole', async () => {
    const settings = { threshold: -30 }
    const effects = [{ id: 'c', kind: 'compressor', settings, strength: 100 }]
    const whole = plan([piece({ length: RATE * 4 })], { reel: { gain: 0, effects } })
    const part: SoundPlan = {
      ...whole,
      length: RATE,
      start: ticks(RATE * 2 + 100),
      pieces: [piece({ at: -RATE * 2 - 100, length: RATE * 4 })],
    }
    const cut = (RATE * 2 + 100) * 2
    const [a, b] = [await mixed(whole, tone(440)), await mixed(part, tone(440))]
    expect(apart(a.slice(cut + RATE, cut + RATE * 2), b.slice(RATE, RATE * 2))).toBeLessThan(-60)
  })

  it('plays a nested reel through its own tracks and effects, and stops it where the clip ends', async () => {
    const effects = [{ id: 'g', kind: 'gain', settings: { gain: -6 }, strength: 100 }]
    const inner = plan([piece({ length: 1000 })], { reel: { gain: 0, effects } })
    const out = await mixed(plan([piece({ nested: inner, at: 100, length: 500, from: 200, gain: 6 })]), ones, {
      count: 800,
    })
    expect(out[99 * 2]).toBe(0)
    expect(out[300 * 2]).toBeCloseTo(1, 5)
    expect(out[600 * 2]).toBe(0)
  })
})

describe('levels, sides and channels', () => {
  it('keep power when panned, and leave the middle as it is', () => {
    expect(panGains(0)).toEqual([1, 1])
    for (const pan of [-100, -60, 25, 100]) {
      const [l, r] = panGains(pan)
      expect(l * l + r * r).toBeCloseTo(2, 9)
    }
    expect(panGains(-100)[1]).toBeCloseTo(0, 9)
  })

  it('follow a line, straight between its points in decibels', async () => {
    const line = {
      keys: [
        { at: 0, value: -20, ease: 'linear' as const },
        { at: ticks(RATE), value: 0, ease: 'linear' as const },
      ],
    }
    const out = side(await mixed(plan([piece({ level: line })]), ones))
    for (const part of [0.25, 0.5, 0.75])
      expect(20 * Math.log10(out[Math.round(RATE * part)]!)).toBeCloseTo(-20 + 20 * part, 1)
  })

  it('follow a track’s line through stretches where nothing is heard on it', async () => {
    const level = {
      keys: [
        { at: 0, value: -20, ease: 'linear' as const },
        { at: ticks(RATE), value: 0, ease: 'linear' as const },
      ],
    }
    const tracks = [{ id: 't', purpose: 'voice' as const, gain: 0, level }]
    const begins = [0, RATE * 0.25, RATE * 0.75]
    const pieces = begins.map((at) => piece({ at, length: 1000 }))
    const out = side(await mixed(plan(pieces, { tracks }), ones))
    for (const at of begins) expect(20 * Math.log10(out[at]!)).toBeCloseTo(-20 + (20 * at) / RATE, 1)
    expect(out[RATE * 0.5]).toBe(0)
  })

  it('choose, swap and fold channels, and set them apart', async () => {
    const heard = async (more: object) => {
      const out = await mixed(plan([piece({ stream: 1, length: 200, ...more })]), counting, { count: 200 })
      return [out[200], out[201]]
    }
    expect(await heard({ channels: 'swapped' })).toEqual([-1, 1])
    expect(await heard({ channels: 'mono' })).toEqual([0, 0])
    expect(await heard({ channels: 'left' })).toEqual([1, 1])
    expect(await heard({ channels: 'right' })).toEqual([-1, -1])
    const [l, r] = await heard({ sides: [-96, 6.020599913279624] })
    expect(l).toBe(0)
    expect(r).toBeCloseTo(-2, 5)
  })

  it('do not click: no step at an edge, nor while a level jumps', async () => {
    const steepest = (block: Float32Array) => {
      let most = 0
      for (let i = 2; i < block.length; i++) most = Math.max(most, Math.abs(block[i]! - block[i - 2]!))
      return most
    }
    const abrupt = { start: true, end: true }
    const cut = plan([piece({ at: 1000, length: 20_000, from: 55, abrupt })])
    const own = 2 * Math.PI * 300 * 0.5 * (1 / RATE)
    expect(steepest(await mixed(cut, tone(300), { count: 30_000 }))).toBeLessThan(own * 2)
    // Without it the same cut is a click.
    expect(steepest(await mixed(plan([piece({ at: 1000, length: 20_000, from: 55 })]), tone(300)))).toBeGreaterThan(
      own * 5,
    )
    const jump = {
      keys: [
        { at: 0, value: 0, ease: 'hold' as const },
        { at: ticks(9000), value: -96, ease: 'hold' as const },
      ],
    }
    expect(steepest(await mixed(plan([piece({ length: 20_000, level: jump })]), tone(300)))).toBeLessThan(own * 3)
  })
})
