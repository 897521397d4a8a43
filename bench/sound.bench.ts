import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Loudness, Mixer, pieceSources, stretchEngines, type SoundReader } from '@dusk/sound'
import type { SoundPiece, SoundPlan, SoundTimePlan } from '@dusk/timeline'
import { median, table } from './table'

/** How fast sound is mixed and stretched, how true a stretch is, and loudness beside ffmpeg's. One thread. */
const RATE = 48_000
const rows: (string | number)[][] = []
const dir = mkdtempSync(join(tmpdir(), 'dusk-bench-'))

/** Steady noise and a few tones, a value for each sample. */
function material(n: number): number {
  let h = Math.imul(n ^ 0x9e3779b9, 0x85ebca6b)
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35)
  return 0.15 * Math.sin(n / 13) + 0.1 * Math.sin(n / 61) + 0.05 * (((h ^ (h >>> 16)) >>> 0) / 2_147_483_648 - 1)
}
const loop = Float32Array.from({ length: RATE * 2 * 4 }, (_, i) => material(i >> 1))
const stereo: SoundReader = async (_asset, _stream, from, count) => {
  const samples = new Float32Array(count * 2)
  for (let at = 0; at < samples.length;) {
    const start = (from * 2 + at) % loop.length
    const part = loop.subarray(start, Math.min(loop.length, start + samples.length - at))
    samples.set(part, at)
    at += part.length
  }
  return { channels: 2, samples }
}
const piece = (more: Partial<SoundPiece>): SoundPiece => ({
  ...{ assetId: 'a', stream: 0, track: 0, at: 0, length: RATE * 30, from: 0, clock: 0, gain: -6 },
  ...more,
})
const effect = (kind: string, settings: object) => ({ id: kind, kind, settings: settings as never, strength: 100 })
const bands = { gain1: 3, gain2: -4, gain4: 2, gain5: 3 }

/** Seconds of sound a second. */
async function pace(plan: SoundPlan, seconds: number, engines = false): Promise<number> {
  const times: number[] = []
  for (let run = 0; run < 3; run++) {
    // Portions that were stretched are kept by the name of their source.
    const renamed = { ...plan, pieces: plan.pieces.map((entry) => ({ ...entry, assetId: `${entry.assetId}${run}` })) }
    const mixer = new Mixer(renamed, pieceSources(stereo, engines ? stretchEngines() : null))
    const began = performance.now()
    for (let at = 0; at < seconds; at++) await mixer.render(RATE)
    times.push((performance.now() - began) / 1000)
  }
  return seconds / median(times)
}

const tracks = Array.from({ length: 10 }, (_, n) => ({
  id: `t${n}`,
  purpose: 'music' as const,
  gain: -3,
  effects: [effect('equaliser', bands), effect('compressor', { threshold: -24 })],
}))
const busy: SoundPlan = {
  length: RATE * 30,
  start: 0,
  tracks,
  pieces: Array.from({ length: 20 }, (_, n) => piece({ track: n % 10, from: n * 777 })),
  reel: { gain: 0, effects: [effect('limiter', {})] },
}
rows.push([
  '20 clips, 10 tracks with equaliser and compressor, limiter: × real time (20 at least)',
  await pace(busy, 20),
])
const plain: SoundPlan = { ...busy, tracks: tracks.map((track) => ({ ...track, effects: [] })), reel: { gain: 0 } }
rows.push(['… without effects', await pace(plain, 20)])

// Stretching.
const time = (speed: number, engine: SoundTimePlan['engine']): SoundTimePlan => ({
  map: { kind: 'constant', source: 0, speed },
  pitch: 'keep',
  shift: 0,
  engine,
})
const single = (entry: SoundPiece): SoundPlan => ({
  length: entry.length,
  start: 0,
  tracks: [{ id: 't', purpose: 'voice', gain: 0 }],
  pieces: [entry],
  reel: { gain: 0 },
})
for (const engine of ['music', 'speech'] as const)
  rows.push([
    `stretched to twice its speed, ${engine}: × real time`,
    await pace(single(piece({ time: time(2, engine), assetId: engine })), 12, true),
  ])

/** What a mono signal sounds like stretched by us, and by ffmpeg. */
async function ours(value: (n: number) => number, speed: number, engine: SoundTimePlan['engine'], name: string) {
  const read: SoundReader = async (_asset, _stream, from, count) => ({
    channels: 1,
    samples: Float32Array.from({ length: count }, (_, i) => value(from + i)),
  })
  const plan = single(piece({ time: time(speed, engine), gain: 0, assetId: name, length: RATE * 3 }))
  const mixer = new Mixer(plan, pieceSources(read, stretchEngines()))
  return (await mixer.render(RATE * 3)).filter((_, i) => i % 2 === 0)
}
function theirs(value: (n: number) => number, speed: number): Float32Array {
  const source = join(dir, 'in.f32')
  writeFileSync(source, Buffer.from(Float32Array.from({ length: RATE * 8 }, (_, n) => value(n)).buffer))
  const raw = ['-f', 'f32le', '-ar', String(RATE), '-ac', '1']
  const out = join(dir, 'out.f32')
  execFileSync('ffmpeg', ['-v', 'error', '-y', ...raw, '-i', source, '-af', `atempo=${speed}`, ...raw, out])
  const bytes = readFileSync(out)
  return new Float32Array(bytes.buffer, bytes.byteOffset, Math.floor(bytes.length / 4)).slice(0, RATE * 3)
}
/** Cents by which the fundamental is off. */
function cents(mono: Float32Array, hz: number): number {
  const part = mono.slice(RATE, RATE * 2)
  const lag = RATE / hz
  const at = (shift: number) => {
    let sum = 0
    for (let i = 0; i + shift < part.length; i++) sum += part[i]! * part[i + shift]!
    return sum / (part.length - shift)
  }
  const periods = 60
  let [best, highest] = [0, -Infinity]
  for (let shift = Math.round((periods - 0.4) * lag); shift <= (periods + 0.4) * lag; shift++)
    if (at(shift) > highest) [best, highest] = [shift, at(shift)]
  const [a, b, c] = [at(best - 1), at(best), at(best + 1)]
  return 1200 * Math.log2((RATE * periods) / (best + (a - c) / (2 * (a - 2 * b + c))) / hz)
}
/** Milliseconds in which a click rises from a tenth of its height to nine tenths: medians over the clicks. */
function rise(mono: Float32Array): number {
  let most = 0
  for (const v of mono) most = Math.max(most, Math.abs(v))
  const rises: number[] = []
  for (let i = 1000; i < mono.length - 5000; i++) {
    if (Math.abs(mono[i]!) < most * 0.3) continue
    let [from, peak, height] = [i, i, 0]
    for (let k = i; k < i + 1200; k++) if (Math.abs(mono[k]!) > height) [peak, height] = [k, Math.abs(mono[k]!)]
    for (let k = peak; k > peak - 2400; k--) if (Math.abs(mono[k]!) > height * 0.1) from = k
    rises.push((peak - from) / 48)
    i += 4800
  }
  return rises.length > 0 ? median(rises) : Number.NaN
}
const voice = (n: number) => {
  const t = n / RATE
  let sum = 0
  for (let k = 1; k <= 12; k++) sum += Math.sin(2 * Math.PI * 120 * k * t) / k
  return 0.15 * sum
}
const chord = (n: number) =>
  [220, 277.18, 329.63].reduce((sum, hz) => sum + 0.15 * Math.sin((2 * Math.PI * hz * n) / RATE), 0)
const clicks = (n: number) => (n % 24_000 < 400 ? 0.8 * Math.sin((n % 24_000) / 12) * Math.exp(-(n % 24_000) / 60) : 0)
rows.push(['clicks before: rise, ms', rise(Float32Array.from({ length: RATE * 3 }, (_, n) => clicks(n)))])
for (const speed of [0.5, 1.5, 2]) {
  for (const engine of ['music', 'speech'] as const) {
    const name = `${engine}${speed}`
    rows.push([
      `${speed} ×, ${engine}: a voice of 120 Hz off by, cents (10 at most)`,
      Math.abs(cents(await ours(voice, speed, engine, `v${name}`), 120)),
    ])
    rows.push([`… clicks rise in, ms`, rise(await ours(clicks, speed, engine, `c${name}`))])
  }
  rows.push([`${speed} ×, ffmpeg's atempo: the voice off by, cents`, Math.abs(cents(theirs(voice, speed), 120))])
  rows.push(['… clicks rise in, ms', rise(theirs(clicks, speed))])
  const partial = (mono: Float32Array) => {
    // How much of a chord is still its three tones, in decibels above all else.
    const part = mono.slice(RATE, RATE * 2)
    let tones = 0
    let all = 0
    for (const v of part) all += (v * v) / part.length
    for (const hz of [220, 277.18, 329.63]) {
      let [re, im] = [0, 0]
      for (const [i, v] of part.entries()) {
        re += v * Math.cos((2 * Math.PI * hz * i) / RATE)
        im += v * Math.sin((2 * Math.PI * hz * i) / RATE)
      }
      tones += (2 * (re * re + im * im)) / part.length ** 2
    }
    return 10 * Math.log10(tones / Math.max(1e-9, all - tones))
  }
  rows.push([
    `${speed} ×, music: a chord above what was added, dB`,
    partial(await ours(chord, speed, 'music', `h${speed}`)),
  ])
  rows.push([`… ffmpeg's atempo`, partial(theirs(chord, speed))])
}

// Loudness beside ffmpeg's.
const signals: [string, (n: number) => number][] = [
  ['tone', (n) => 0.3 * Math.sin(n / 7.6)],
  ['quiet tone', (n) => 0.01 * Math.sin(n / 20)],
  ['noise', (n) => material(n) - 0.15 * Math.sin(n / 13)],
  ['voice', (n) => voice(n) * (Math.floor(n / 30_000) % 3 ? 1 : 0)],
  ['chord', chord],
  ['clicks', clicks],
  ['rising', (n) => (n / (RATE * 10)) * 0.5 * Math.sin(n / 9)],
  // It comes in slowly: an abrupt start rings otherwise in every meter's filter.
  ['between samples', (n) => Math.min(1, n / 9600) * 0.9 * Math.sin((Math.PI / 2) * n + Math.PI / 4)],
  ['low', (n) => 0.6 * Math.sin(n / 300)],
  ['material', material],
]
let [worstLoudness, worstPeak] = [0, 0]
for (const [, value] of signals) {
  const mono = Float32Array.from({ length: RATE * 10 }, (_, n) => value(n))
  const both = Float32Array.from({ length: mono.length * 2 }, (_, i) => mono[i >> 1]!)
  const meter = new Loudness()
  meter.push(both)
  const found = meter.result()
  const source = join(dir, 'loud.f32')
  writeFileSync(source, Buffer.from(both.buffer))
  const input = `-f f32le -ar ${RATE} -ac 2 -i ${source}`
  const log = execFileSync('bash', ['-c', `ffmpeg -nostats ${input} -af ebur128=peak=true -f null - 2>&1`], {
    encoding: 'utf8',
  })
  const summary = log.slice(log.lastIndexOf('Summary:'))
  const [integrated, peak] = [/I:\s+(-?[\d.]+) LUFS/, /Peak:\s+(-?[\d.]+) dBFS/].map((form) =>
    Number(form.exec(summary)![1]),
  )
  if (found.integrated !== null) worstLoudness = Math.max(worstLoudness, Math.abs(found.integrated - integrated!))
  worstPeak = Math.max(worstPeak, Math.abs(found.truePeak - peak!))
}
rows.push([`loudness beside ffmpeg's on ${signals.length} signals, off by at most, LU (0.1)`, worstLoudness])
rows.push(['… true peak, off by at most, dB (0.2)', worstPeak])
rmSync(dir, { recursive: true, force: true })
table(['sound, one thread', ''], rows)
