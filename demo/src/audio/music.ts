import { add, noise, pluck, RATE, silence } from './synth'

/** Beats a minute of the song; bars of four. */
export const SONG_BPM = 96
const BARS = 24

const NOTE: Record<string, number> = {
  A2: 110,
  C3: 130.81,
  D3: 146.83,
  E3: 164.81,
  F3: 174.61,
  G3: 196,
  A3: 220,
  B3: 246.94,
  C4: 261.63,
  D4: 293.66,
  E4: 329.63,
  F4: 349.23,
  G4: 392,
  A4: 440,
  B4: 493.88,
  C5: 523.25,
  D5: 587.33,
  E5: 659.26,
}
const CHORDS = [
  ['A2', 'A3', 'C4', 'E4'],
  ['F3', 'A3', 'C4', 'F4'],
  ['C3', 'G3', 'C4', 'E4'],
  ['G3', 'B3', 'D4', 'G4'],
] as const
const TUNE = ['E4', 'A4', 'C5', 'B4', 'A4', 'E4', 'G4', 'E4', 'C4', 'E4', 'G4', 'C5', 'D5', 'B4', 'G4', 'D4']

const plucked = new Map<string, Float32Array>()

/** Adds a plucked note. Each note is synthesised once and then copied: the song plays few notes often. */
function play(
  out: Float32Array,
  at: number,
  seconds: number,
  frequency: number,
  bright: number,
  gain: number,
  pan = 0,
): void {
  const key = `${frequency} ${bright} ${seconds}`
  let samples = plucked.get(key)
  if (!samples) {
    const voice = pluck(frequency, bright)
    samples = Float32Array.from({ length: Math.round(seconds * RATE) }, (_, i) => voice(i / RATE))
    plucked.set(key, samples)
  }
  add(out, at, seconds, (t) => samples[Math.round(t * RATE)] ?? 0, gain, pan)
}

/** "Night song": a minute of plucked chords, a bass, a tune, and a drum on every beat. */
export function nightSong(): Float32Array {
  const beat = 60 / SONG_BPM
  const out = silence(BARS * 4 * beat)
  for (let bar = 0; bar < BARS; bar++) {
    const at = bar * 4 * beat
    const chord = CHORDS[bar % 4]!
    play(out, at, 2.6, NOTE[chord[0]]! / (bar % 4 === 1 ? 2 : 1), 0.7, 0.26)
    play(out, at + 2.5 * beat, 1.6, NOTE[chord[0]]!, 0.7, 0.14)
    for (let step = 0; step < 8; step++) {
      const name = chord[1 + [0, 1, 2, 1, 0, 2, 1, 2][step]!]!
      play(out, at + step * beat * 0.5, 1.4, NOTE[name]!, 1, 0.075, step % 2 ? 0.45 : -0.45)
    }
    if (bar >= 4)
      for (let step = 0; step < 4; step++) {
        const name = TUNE[(bar * 4 + step) % TUNE.length]!
        play(out, at + step * beat, 1.8, NOTE[name]!, 1.3, 0.1, 0.12)
      }
    for (let step = 0; step < 4; step++) {
      add(
        out,
        at + step * beat,
        0.22,
        (t) => Math.sin(2 * Math.PI * (52 * t + 2.6 * (1 - Math.exp(-t * 32)))) * Math.exp(-t * 16),
        bar < 2 ? 0.2 : 0.34,
      )
      if (bar >= 2) {
        const shaker = noise(
          bar * 8 + step,
          () => 9000,
          () => 4200,
        )
        add(out, at + (step + 0.5) * beat, 0.09, (t) => shaker(t) * Math.exp(-t * 55), 0.24, -0.25)
      }
    }
  }
  // As loud as a finished song: the highest sample just below full scale.
  const peak = out.reduce((high, value) => Math.max(high, Math.abs(value)), 0)
  for (let i = 0; i < out.length; i++) out[i]! *= 0.85 / peak
  const fade = 3 * 48_000
  for (let i = 0; i < fade; i++) for (const c of [0, 1]) out[out.length - 2 * (i + 1) + c]! *= i / fade
  return out
}
