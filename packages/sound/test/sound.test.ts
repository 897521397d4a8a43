import { describe, expect, it } from 'vitest'
import {
  decibelsToGain,
  downmix,
  gainToDecibels,
  Loudness,
  readSoundHeader,
  readWaveform,
  soundByteRange,
  varispeed,
  WaveformBuilder,
  wavHeader,
  wavSamples,
  waveformLevel,
  writeSoundHeader,
} from '../src/index'
import { highestBetween, noiseAt } from './tools'

function sine(seconds: number, frequency: number, decibels: number): Float32Array {
  const out = new Float32Array(seconds * 48_000 * 2)
  const peak = 10 ** (decibels / 20)
  for (let i = 0; i < out.length / 2; i++)
    out[i * 2] = out[i * 2 + 1] = peak * Math.sin((2 * Math.PI * frequency * i) / 48_000)
  return out
}

describe('levels', () => {
  it('turns decibels into factors as the definition says', () => {
    for (let db = -95; db <= 24; db += 0.7) expect(decibelsToGain(db) / 10 ** (db / 20)).toBeCloseTo(1, 11)
    expect(decibelsToGain(0)).toBe(1)
    expect(decibelsToGain(-96)).toBe(0)
    expect(gainToDecibels(decibelsToGain(-12))).toBeCloseTo(-12, 9)
  })
})

describe('folding down', () => {
  it('has a share for each channel', () => {
    for (const n of [1, 2, 3, 4, 5, 6, 7, 8, 16]) expect(downmix(n).left).toHaveLength(n)
  })
})

describe('playing at another speed', () => {
  it('goes forwards, backwards and holds the ends', () => {
    const source = Float32Array.from({ length: 20 }, (_, i) => Math.floor(i / 2))
    const left = (out: Float32Array) => [...out.filter((_, i) => i % 2 === 0)]
    expect(left(varispeed(source, 1, 2, 4))).toEqual([1, 3, 5, 7])
    expect(left(varispeed(source, 4, -0.5, 4))).toEqual([4, 3.5, 3, 2.5])
    expect(left(varispeed(source, 8, 1, 4))).toEqual([8, 9, 9, 9])
  })
})

describe('sound files', () => {
  it('read back their header, and find a range', () => {
    const header = { channels: 6, sampleRate: 48_000, samples: 5e9 }
    expect(readSoundHeader(writeSoundHeader(header))).toEqual(header)
    expect(soundByteRange(2, 10, 5)).toEqual({ start: 112, end: 152 })
    expect(() => readSoundHeader(new Uint8Array(40))).toThrow('not a canonical')
  })
})

describe('waveforms', () => {
  it('keeps lowest and highest at every scale', () => {
    const builder = new WaveformBuilder(2)
    const samples = 600_000
    const block = new Float32Array(samples * 2)
    block[2 * 300_000] = 0.5
    block[2 * 300_001] = -0.25
    block[2 * 599_999 + 1] = 1
    for (let at = 0; at < block.length; at += 10_000)
      builder.push(block.subarray(at, Math.min(at + 10_000, block.length)))
    const waveform = readWaveform(builder.finish())
    expect(waveform).toMatchObject({ channels: 2, samples })
    expect(waveform.levels.length).toBeGreaterThan(1)
    for (const { step, channels } of waveform.levels) {
      const i = Math.floor(300_000 / step)
      expect([...channels[0]!.slice(i * 3, i * 3 + 2)]).toEqual([-32, 64])
      // The mean of two values among nothing is small, and the smaller the longer the step.
      expect(channels[0]![i * 3 + 2]).toBe(Math.round(127 * Math.sqrt(0.3125 / Math.min(step, samples))))
      expect(channels[1]!.at(-2)).toBe(127)
      expect(channels[0]!).toHaveLength(Math.ceil(samples / step) * 3)
      expect(channels[0]![0]).toBe(0)
    }
    expect(waveformLevel(waveform, 100).step).toBe(256)
    expect(waveformLevel(waveform, 1500).step).toBe(1024)
  })
})

describe('loudness', () => {
  // Signals and limits from EBU Tech 3341, cases 1, 2 and 3.
  it('measures a steady tone', () => {
    for (const level of [-23, -33]) {
      const meter = new Loudness()
      meter.push(sine(20, 1000, level))
      expect(Math.abs(meter.integrated()! - level)).toBeLessThan(0.1)
    }
  })

  it('gates quiet stretches out', () => {
    const meter = new Loudness()
    for (const [seconds, level] of [
      [10, -36],
      [60, -23],
      [10, -36],
    ] as const)
      meter.push(sine(seconds, 1000, level))
    expect(Math.abs(meter.integrated()! + 23)).toBeLessThan(0.1)
  })

  it('measures the same however it comes in', () => {
    const loud = sine(2, 997, -12).map((value, i) => value * (i < 96_000 ? 0.2 : 1))
    const whole = new Loudness()
    whole.push(loud)
    for (const frames of [1, 7, 128, 1000]) {
      const meter = new Loudness()
      for (let at = 0; at < loud.length; at += frames * 2) meter.push(loud.subarray(at, at + frames * 2))
      expect(meter.integrated(), String(frames)).toBe(whole.integrated())
      expect(meter.truePeak, String(frames)).toBe(whole.truePeak)
      expect(meter.peak, String(frames)).toBe(whole.peak)
    }
  })

  it('finds peaks between samples, wherever blocks of it end, and after louder ones', () => {
    // A quarter of the sample rate, an eighth of a turn off: its samples miss its peaks by 3 dB.
    for (const begin of [0, 100, 125, 128, 133]) {
      const mono = Float32Array.from({ length: 600 }, (_, n) => {
        const bell = Math.exp(-(((n - begin - 60) / 8) ** 2))
        return 0.8 * bell * Math.sin((Math.PI / 2) * n + Math.PI / 4) + (n > 500 ? 0.2 * noiseAt(n) : 0)
      })
      const meter = new Loudness()
      meter.push(Float32Array.from({ length: 1200 }, (_, i) => mono[i >> 1]!))
      expect(meter.truePeak, String(begin)).toBeGreaterThan(meter.peak * 1.3)
      expect(20 * Math.log10(meter.truePeak / highestBetween(mono)), String(begin)).toBeCloseTo(0, 1)
    }
  })

  it('says nothing of silence', () => {
    const meter = new Loudness()
    meter.push(new Float32Array(96_000))
    expect(meter.integrated()).toBeNull()
    expect(meter.peak).toBe(0)
  })
})

describe('WAV files', () => {
  it('hold 24-bit stereo behind their head, full scale held', () => {
    const head = wavHeader(48_000)
    expect(new TextDecoder().decode(head.subarray(0, 4))).toBe('RIFF')
    expect(new DataView(head.buffer).getUint32(40, true)).toBe(288_000)
    const bytes = wavSamples(Float32Array.from([0, 1, -1, 2, 0.5]))
    const values = Array.from(
      { length: 5 },
      (_, i) => ((bytes[i * 3]! | (bytes[i * 3 + 1]! << 8) | (bytes[i * 3 + 2]! << 16)) << 8) >> 8,
    )
    expect(values).toEqual([0, 8_388_607, -8_388_607, 8_388_607, 4_194_304])
  })
})
