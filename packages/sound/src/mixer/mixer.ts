import { TICKS_PER_SAMPLE, type SoundPiece, type SoundPlan } from '@dusk/timeline'
import { QUANTUM } from '../effects'
import { Bus } from './bus'
import { EffectChain } from './chain'
import type { MeterTap } from './meters'
import type { PieceSource } from './pieceSource'
import { PieceVoice } from './pieceVoice'

/** Samples of seeking: places are met from a multiple of this, so that effects with windows of their own line up. */
const STRIDE = 1024

/** Longest run-up before a place that is sought, in seconds. */
const MOST_RUN_UP = 8

/** Makes what a piece reads from; the mixer asks again for each piece after a seek. */
export type SourceOf = (piece: SoundPiece) => PieceSource

/**
 * Turns a plan into samples, block after block, with what its effects remember. How blocks are cut makes no difference
 * to a sample. After a seek the effects have run up first, for as long as what they remember matters (at most
 * {@link MOST_RUN_UP} seconds).
 */
export class Mixer {
  private voices: PieceVoice[] = []
  private buses: Bus[] = []
  private master!: Bus
  private queue: SoundPiece[] = []
  /** The next sample that {@link render} gives, and the next block that is mixed. */
  private position = 0
  private mixed = 0
  /** Samples at the start of the next block that nobody asked for. */
  private dropped = 0
  /** What was mixed and not given yet. */
  private rest = new Float32Array(0)
  /** What effects fetch before they are heard. */
  private fetched: Promise<void> | null = null

  constructor(
    readonly plan: SoundPlan,
    private readonly sourceOf: SourceOf,
    private readonly tap?: MeterTap,
  ) {
    this.reset(0)
  }

  /** The next sample to be given. */
  get at(): number {
    return this.position
  }

  private reset(from: number): void {
    const { plan } = this
    this.master = new Bus(plan.reel)
    this.buses = plan.tracks.map((track) => new Bus(track))
    this.voices = []
    // Those that begin first lie last, where they are taken from.
    this.queue = [...plan.pieces].sort((a, b) => b.at - a.at)
    // Blocks lie on the reel's own samples, so that a plan of a part of it is mixed as one of the whole.
    const start = Math.round(plan.start / TICKS_PER_SAMPLE)
    this.mixed = Math.floor((from + start - this.latest()) / STRIDE) * STRIDE - start
    this.dropped = from - this.mixed
    this.position = from
    this.rest = new Float32Array(0)
  }

  /** Samples by which the slowest way through the mix is late: as much has to be run up before anything is right. */
  private latest(): number {
    const clips = this.plan.pieces.reduce((most, piece) => Math.max(most, piece.at - PieceVoice.beginOf(piece)), 0)
    return this.buses.reduce((most, bus) => Math.max(most, bus.latency), 0) + this.master.latency + clips
  }

  /** Goes to a place: mixing goes on from there. @param most longest run-up in seconds */
  async seek(sample: number, most = MOST_RUN_UP): Promise<void> {
    this.reset(0)
    const memory = [this.master, ...this.buses].reduce((most, bus) => Math.max(most, bus.memory), 0)
    const clips = this.plan.pieces.reduce((most, piece) => Math.max(most, PieceVoice.memoryOf(piece)), 0)
    const up = Math.min(most, memory + clips) * 48_000
    this.reset(sample - Math.ceil(up))
    if (up > 0) await this.render(Math.ceil(up))
  }

  /** The next `count` samples, interleaved stereo; may exceed ±1. */
  async render(count: number): Promise<Float32Array> {
    const end = this.position + count
    const short = Math.max(0, end - this.mixed)
    const blocks = Math.ceil(short / QUANTUM)
    const mixedNow = await this.mix(blocks)
    const fresh = mixedNow.subarray(this.dropped * 2)
    if (blocks > 0) this.dropped = 0
    const all = new Float32Array(this.rest.length + fresh.length)
    all.set(this.rest)
    all.set(fresh, this.rest.length)
    this.rest = all.slice(count * 2)
    this.position = end
    return all.subarray(0, count * 2)
  }

  private async mix(blocks: number): Promise<Float32Array> {
    const out = new Float32Array(blocks * QUANTUM * 2)
    if (blocks === 0) return out
    await (this.fetched ??= EffectChain.load(this.allEffects()))
    const [from, to] = [this.mixed, this.mixed + blocks * QUANTUM]
    await this.prepare(from, to)
    const [left, right] = [new Float32Array(QUANTUM), new Float32Array(QUANTUM)]
    for (let at = from; at < to; at += QUANTUM) {
      this.block(at, left, right)
      for (let i = 0, o = (at - from) * 2; i < QUANTUM; i++, o += 2) {
        out[o] = left[i]!
        out[o + 1] = right[i]!
      }
    }
    this.mixed = to
    return out
  }

  private allEffects() {
    const { reel, tracks, pieces } = this.plan
    return [reel, ...tracks, ...pieces].flatMap(({ effects }) => effects ?? [])
  }

  /** Reads what every piece needs to be heard between two places. */
  private async prepare(from: number, to: number): Promise<void> {
    const ahead = (piece: SoundPiece) => this.aheadOf(piece.track)
    const most = this.buses.reduce((longest, bus) => Math.max(longest, bus.latency), 0) + this.master.latency
    while (this.queue.length > 0) {
      const piece = this.queue.at(-1)!
      if (PieceVoice.beginOf(piece) - most >= to) break
      this.queue.pop()
      const voice = new PieceVoice(piece, this.sourceOf)
      if (voice.end - ahead(piece) > from) this.voices.push(voice)
      else voice.release()
    }
    const over = this.voices.filter((voice) => voice.end - this.aheadOf(voice.piece.track) <= from)
    for (const voice of over) voice.release()
    if (over.length > 0) this.voices = this.voices.filter((voice) => !over.includes(voice))
    await Promise.all(
      this.voices.map((voice) => {
        const by = this.aheadOf(voice.piece.track)
        return voice.load(from + by, to + by)
      }),
    )
  }

  /** Samples by which a track is mixed ahead, for what its effects and the reel's hold back. */
  private aheadOf(track: number): number {
    return this.buses[track]!.latency + this.master.latency
  }

  private block(at: number, left: Float32Array, right: Float32Array): void {
    const { plan, buses, master, tap } = this
    const clock = plan.start + at * TICKS_PER_SAMPLE
    for (const bus of buses) bus.clear()
    for (const voice of this.voices) {
      const bus = buses[voice.piece.track]!
      voice.add(at + this.aheadOf(voice.piece.track), bus)
    }
    master.clear()
    const late = master.latency * TICKS_PER_SAMPLE
    for (const [i, bus] of buses.entries()) {
      bus.process(clock + late)
      tap?.track(plan.tracks[i]!.id, at + master.latency, bus)
      if (bus.silent) continue
      master.added()
      for (let k = 0; k < QUANTUM; k++) {
        master.left[k]! += bus.left[k]!
        master.right[k]! += bus.right[k]!
      }
    }
    master.process(clock)
    tap?.reel(at, master)
    if (tap) for (const voice of this.voices) tap.clip(voice.piece, at, voice.reductions())
    left.set(master.left)
    right.set(master.right)
  }

  /** Gives back what pieces hold. */
  release(): void {
    for (const voice of this.voices) voice.release()
    this.voices = []
  }
}
