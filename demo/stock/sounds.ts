import { EFFECTS } from '../src/audio/effects'
import { add, clap, lapping, noise, over, pluck, RATE, silence } from '../src/audio/synth'

/** A tone that glides from one pitch to another. */
const glide = (from: number, to: number, seconds: number) => (t: number) =>
  Math.sin(2 * Math.PI * (from * t + ((to - from) * t * t) / (2 * seconds)))

/** Plucked notes one after the other. */
function notes(pitches: readonly number[], step: number, ring: number, bright = 1.2): Float32Array {
  const out = silence(pitches.length * step + ring)
  for (const [i, pitch] of pitches.entries()) add(out, i * step, ring, pluck(pitch, bright), 0.3, i % 2 ? 0.2 : -0.2)
  return out
}

/** A bed of noise that swells and ebbs, on both sides apart. */
function swell(seconds: number, seed: number, low: number, high: number, pace: number, level: number): Float32Array {
  const out = silence(seconds)
  for (const [i, pan] of [-0.7, 0.7].entries()) {
    const air = noise(
      seed + i * 7,
      (t) => low * (0.7 + 0.3 * Math.sin(t * pace + i * 2)),
      () => high,
    )
    add(
      out,
      0,
      seconds,
      (t) => air(t) * (0.6 + 0.4 * Math.sin(t * pace * 0.7 + i)) * Math.min(1, t, seconds - t),
      level,
      pan,
    )
  }
  return out
}

function hits(times: readonly number[], seconds: number, hit: (i: number) => (t: number) => number): Float32Array {
  const out = silence(seconds)
  for (const [i, at] of times.entries()) add(out, at, Math.min(0.6, seconds - at), hit(i), 0.7, i % 2 ? 0.25 : -0.25)
  return out
}

/** Sounds of the stock: what they are called, and how they are made. */
export const SOUNDS: Record<string, { title: string; group: string; make: () => Float32Array }> = {
  whoosh: { title: 'Whoosh', group: 'Sounds', make: EFFECTS.whoosh! },
  'whoosh-short': {
    title: 'Short whoosh',
    group: 'Sounds',
    make() {
      const out = silence(0.5)
      const air = noise(
        13,
        (t) => 900 + 6000 * Math.sin((Math.PI * t) / 0.5) ** 2,
        () => 250,
      )
      add(out, 0, 0.5, (t) => air(t) * Math.sin((Math.PI * t) / 0.5) ** 3, 1.2)
      return out
    },
  },
  riser: {
    title: 'Riser',
    group: 'Sounds',
    make() {
      const out = silence(3)
      const tone = glide(110, 880, 3)
      const air = noise(
        17,
        (t) => 400 + 2600 * t,
        () => 200,
      )
      add(out, 0, 3, (t) => (tone(t) * 0.35 + air(t)) * (t / 3) ** 2 * Math.min(1, (3 - t) * 30), 0.7)
      return out
    },
  },
  thump: {
    title: 'Deep thump',
    group: 'Sounds',
    make: () => hits([0.02], 1.2, () => (t) => glide(120, 42, 0.5)(Math.min(t, 0.5)) * Math.exp(-t * 5) * 1.3),
  },
  splash: { title: 'Splash', group: 'Sounds', make: EFFECTS.splash! },
  bell: { title: 'Quay bell', group: 'Sounds', make: EFFECTS.bell! },
  'second-pips': {
    title: 'A pip each second',
    group: 'Sounds',
    make() {
      const out = silence(30)
      const pip = (t: number) => Math.sin(2 * Math.PI * 880 * t) * Math.min(1, t * 400, (0.09 - t) * 200)
      for (let i = 0; i < 30; i++) add(out, i, 0.09, pip, 0.5)
      return out
    },
  },
  'paper-rustle': { title: 'Paper rustle', group: 'Sounds', make: EFFECTS['paper-rustle']! },
  'steps-on-stone': { title: 'Steps on stone', group: 'Sounds', make: EFFECTS['steps-on-stone']! },
  'far-gulls': { title: 'Far gulls', group: 'Sounds', make: EFFECTS['far-gulls']! },
  applause: {
    title: 'A few claps',
    group: 'Sounds',
    make() {
      const out = silence(3)
      for (let i = 0; i < 34; i++)
        over(out, clap(), 0.05 + i * 0.075 + 0.03 * Math.sin(i * 7.3), 0.28 + 0.16 * Math.sin(i * 2.1))
      return out
    },
  },
  'match-strike': {
    title: 'Match strike',
    group: 'Sounds',
    make() {
      const out = silence(1.4)
      const scratch = noise(
        31,
        () => 7000,
        () => 2200,
      )
      const flame = noise(
        37,
        () => 900,
        () => 120,
      )
      add(out, 0.05, 0.22, (t) => scratch(t) * Math.min(1, t * 40) * Math.exp(-t * 6), 1)
      add(out, 0.2, 1.2, (t) => flame(t) * Math.exp(-t * 2.4) * (0.7 + 0.3 * Math.sin(t * 60)), 0.9)
      return out
    },
  },
  'wooden-knock': {
    title: 'Wooden knock',
    group: 'Sounds',
    make: () =>
      hits(
        [0.02, 0.22, 0.42],
        1,
        (i) => (t) =>
          (Math.sin(2 * Math.PI * (310 + i * 8) * t) + 0.5 * Math.sin(2 * Math.PI * 690 * t)) * Math.exp(-t * 42),
      ),
  },
  'camera-click': {
    title: 'Shutter',
    group: 'Sounds',
    make() {
      const tick = noise(
        51,
        () => 8000,
        () => 1500,
      )
      return hits([0.01, 0.09], 0.3, () => (t) => tick(t) * Math.exp(-t * 90) * 1.4)
    },
  },
  pop: {
    title: 'Pop',
    group: 'Sounds',
    make: () => hits([0.01], 0.3, () => (t) => glide(420, 1300, 0.1)(Math.min(t, 0.1)) * Math.exp(-t * 38)),
  },
  'chime-up': {
    title: 'Chime, rising',
    group: 'Sounds',
    make: () => notes([523.25, 659.26, 783.99, 1046.5], 0.11, 1.3),
  },
  'chime-down': {
    title: 'Chime, falling',
    group: 'Sounds',
    make: () => notes([1046.5, 783.99, 659.26, 523.25], 0.11, 1.3),
  },
  'wrong-way': { title: 'Not quite', group: 'Sounds', make: () => notes([196, 185], 0.24, 0.9, 0.8) },
  'clock-tick': {
    title: 'Clock, five ticks',
    group: 'Sounds',
    make() {
      const tick = noise(
        61,
        () => 6500,
        () => 2500,
      )
      return hits(
        [0, 1, 2, 3, 4].map((n) => n + 0.02),
        5,
        (i) => (t) => tick(t) * Math.exp(-t * (i % 2 ? 150 : 110)) * 1.6,
      )
    },
  },
  'harbour-water': { title: 'Water at the quay', group: 'Ambience', make: () => lapping(16, 0.5) },
  'evening-wind': { title: 'Evening wind', group: 'Ambience', make: () => swell(16, 71, 900, 90, 0.5, 0.8) },
  'soft-rain': { title: 'Soft rain', group: 'Ambience', make: () => swell(16, 81, 9000, 1800, 0.21, 0.35) },
  'room-tone': { title: 'Quiet room', group: 'Ambience', make: () => swell(16, 91, 220, 40, 0.1, 0.25) },
}

/** What a bed is made of: chords of frequencies, a pace, and who plays. */
interface Bed {
  title: string
  bpm: number
  chords: readonly (readonly number[])[]
  bright: number
  drum: boolean
  steps: readonly number[]
}

const A = [110, 220, 261.63, 329.63]
const F = [87.31, 220, 261.63, 349.23]
const C = [130.81, 196, 261.63, 329.63]
const G = [98, 196, 246.94, 293.66]
const D = [146.83, 220, 293.66, 369.99]
const E = [82.41, 207.65, 246.94, 329.63]

/** Music of the stock: beds of eight bars that can be put one after the other. */
export const BEDS: Record<string, Bed> = {
  'first-lantern': {
    title: 'First lantern',
    bpm: 84,
    chords: [C, G, A, F],
    bright: 1,
    drum: false,
    steps: [1, 2, 3, 2, 1, 2, 3, 2],
  },
  'down-the-steps': {
    title: 'Down the steps',
    bpm: 112,
    chords: [A, F, C, G],
    bright: 1.2,
    drum: true,
    steps: [1, 3, 2, 3, 1, 3, 2, 3],
  },
  'oars-and-voices': {
    title: 'Oars and voices',
    bpm: 96,
    chords: [D, A, D, G],
    bright: 0.9,
    drum: true,
    steps: [1, 1, 2, 1, 3, 1, 2, 1],
  },
  'low-tide': {
    title: 'Low tide',
    bpm: 66,
    chords: [A, E, F, C],
    bright: 0.7,
    drum: false,
    steps: [1, 2, 3, 3, 2, 2, 1, 1],
  },
  'market-lane': {
    title: 'Market lane',
    bpm: 128,
    chords: [C, F, G, C],
    bright: 1.4,
    drum: true,
    steps: [1, 2, 3, 1, 2, 3, 2, 3],
  },
  'keeper-waltz': {
    title: 'Keeper’s waltz',
    bpm: 104,
    chords: [F, C, D, A],
    bright: 1,
    drum: false,
    steps: [1, 2, 2, 3, 2, 2],
  },
}

/** Plays a bed: a bass on the first beat of every bar, broken chords, and for some a soft drum. */
export function playBed({ bpm, chords, bright, drum, steps }: Bed): Float32Array {
  const step = 30 / bpm
  const bar = steps.length * step
  const out = silence(bar * 8)
  const known = new Map<string, Float32Array>()
  const play = (at: number, pitch: number, ring: number, gain: number, pan: number) => {
    const key = `${pitch} ${ring}`
    let samples = known.get(key)
    if (!samples) {
      const voice = pluck(pitch, bright)
      samples = Float32Array.from({ length: Math.round(ring * RATE) }, (_, i) => voice(i / RATE))
      known.set(key, samples)
    }
    const note = samples
    add(out, at, ring, (t) => note[Math.round(t * RATE)] ?? 0, gain, pan)
  }
  for (let n = 0; n < 8; n++) {
    const chord = chords[n % chords.length]!
    play(n * bar, chord[0]!, 2.2, 0.3, 0)
    for (const [i, tone] of steps.entries()) {
      play(n * bar + i * step, chord[tone]!, 1.3, 0.1, i % 2 ? 0.4 : -0.4)
      if (drum && i % 2 === 0)
        add(
          out,
          n * bar + i * step,
          0.2,
          (t) => Math.sin(2 * Math.PI * (95 - 180 * t) * t) * Math.exp(-t * 26),
          i % 4 === 0 ? 0.35 : 0.16,
        )
    }
  }
  return out
}
