import { Fft, LiveLoudness, type MeterTap } from '@dusk/sound'
import type { MeterReading, Meters } from './messages'

/** Samples between readings. */
const EVERY = 2400
const SPECTRUM = 4096

type Tapped = Parameters<MeterTap['track']>[2]

class Peaks {
  private left = 0
  private right = 0
  private sum = 0
  private count = 0

  add({ left, right }: Tapped): void {
    for (let i = 0; i < left.length; i++) {
      const [l, r] = [Math.abs(left[i]!), Math.abs(right[i]!)]
      if (l > this.left) this.left = l
      if (r > this.right) this.right = r
      this.sum += l * l + r * r
    }
    this.count += left.length
  }

  take(): MeterReading {
    const reading = { left: this.left, right: this.right, rms: Math.sqrt(this.sum / Math.max(1, this.count * 2)) }
    this.left = this.right = this.sum = this.count = 0
    return reading
  }
}

/** Collects what the meters show from what passes through the mixer, and hands it on twenty times a second. */
export class MixMeters implements MeterTap {
  /** The track whose spectrum is wanted, or the reel's own id. */
  watched: string | null = null
  /** The sample of the reel that play began with, and which play it was. */
  run = 0
  first = 0
  /** The sample of the reel from which on it is heard: run-ups before it are not. */
  private from = 0
  private readonly tracks = new Map<string, Peaks>()
  private readonly master = new Peaks()
  private readonly held = new Map<string, number>()
  private loudness = new LiveLoudness()
  private readonly fft = new Fft(SPECTRUM)
  private readonly past = new Float32Array(SPECTRUM)

  constructor(
    private readonly say: (meters: Meters) => void,
    private readonly reelId: () => string,
  ) {}

  begin(run: number, first: number): void {
    Object.assign(this, { run, first, from: first })
    this.loudness = new LiveLoudness()
    this.past.fill(0)
  }

  /** Goes on from a sample, after a change: what is run up to it does not count. */
  resume(from: number): void {
    this.from = from
  }

  track(id: string, at: number, bus: Tapped): void {
    if (at < this.from) return
    let peaks = this.tracks.get(id)
    if (!peaks) this.tracks.set(id, (peaks = new Peaks()))
    peaks.add(bus)
    this.hold(bus.reductions())
    if (id === this.watched) this.listen(bus)
  }

  clip(_piece: unknown, at: number, reductions: Iterable<[string, number]>): void {
    if (at >= this.from) this.hold(reductions)
  }

  reel(at: number, bus: Tapped): void {
    if (at < this.from) return
    this.master.add(bus)
    this.hold(bus.reductions())
    this.loudness.push(bus.left, bus.right)
    if (this.watched === this.reelId()) this.listen(bus)
    if (at % EVERY >= bus.left.length) return
    this.say({
      run: this.run,
      at: at - this.first,
      reel: this.master.take(),
      truePeak: this.loudness.takePeak(),
      momentary: this.loudness.momentary,
      shortTerm: this.loudness.shortTerm,
      tracks: Object.fromEntries([...this.tracks].map(([id, peaks]) => [id, peaks.take()])),
      reductions: Object.fromEntries(this.held),
      spectrum: this.watched ? this.spectrum() : null,
    })
    this.held.clear()
  }

  private hold(reductions: Iterable<[string, number]>): void {
    for (const [id, db] of reductions) this.held.set(id, Math.min(this.held.get(id) ?? 0, db))
  }

  private listen({ left, right }: Tapped): void {
    this.past.copyWithin(0, left.length)
    for (let i = 0; i < left.length; i++) this.past[SPECTRUM - left.length + i] = (left[i]! + right[i]!) / 2
  }

  /** Decibels at 64 frequencies from 20 Hz to 20 kHz, each a step of the same ratio above the last. */
  private spectrum(): number[] {
    const [re, im] = [new Float64Array(SPECTRUM), new Float64Array(SPECTRUM)]
    for (let i = 0; i < SPECTRUM; i++)
      re[i] = this.past[i]! * (0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / SPECTRUM)) * (4 / SPECTRUM)
    this.fft.run(re, im)
    const bin = (hz: number) => (hz / 48_000) * SPECTRUM
    return Array.from({ length: 64 }, (_, n) => {
      const [low, high] = [bin(20 * 1000 ** ((n - 0.5) / 63)), bin(20 * 1000 ** ((n + 0.5) / 63))]
      let most = 0
      for (let k = Math.max(1, Math.floor(low)); k <= Math.min(SPECTRUM / 2 - 1, Math.ceil(high)); k++)
        most = Math.max(most, Math.hypot(re[k]!, im[k]!))
      return Math.max(-120, 20 * Math.log10(most + 1e-9))
    })
  }
}
