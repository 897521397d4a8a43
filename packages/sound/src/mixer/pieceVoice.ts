import { TICKS_PER_SAMPLE, type SoundPiece } from '@dusk/timeline'
import { soundKernels } from '../dsp/kernels'
import { fadeGain } from '../fade'
import { QUANTUM, soundEffect } from '../effects'
import type { Bus } from './bus'
import { EffectChain } from './chain'
import { chooseChannels, Fader, setSides } from './channel'
import type { PieceSource } from './pieceSource'

/** Samples over which a sound comes up or goes where it would begin or end with a click: 2 ms. */
const SOFT = 96

/** A piece being heard, with what its effects remember. */
export class PieceVoice {
  private readonly chain: EffectChain
  private readonly fader: Fader
  private readonly source: PieceSource
  /** Nothing is done to it but its level. */
  private readonly plain: boolean
  private readonly left = new Float32Array(QUANTUM)
  private readonly right = new Float32Array(QUANTUM)
  private loaded: { from: number; samples: Float32Array } = { from: 0, samples: new Float32Array(0) }
  /** First sample after the last that is heard of it, its tail included. */
  readonly end: number

  constructor(
    readonly piece: SoundPiece,
    sourceOf: (piece: SoundPiece) => PieceSource,
  ) {
    this.chain = new EffectChain(piece.effects ?? [])
    this.fader = new Fader(piece)
    this.source = sourceOf(piece)
    this.plain = this.chain.empty && !piece.channels && !piece.sides && !piece.fades?.length
    this.end = piece.at + piece.length + (this.chain.empty ? 0 : Math.ceil(this.chain.memory * 48_000))
  }

  /** Seconds for which a piece's effects remember. */
  static memoryOf({ effects = [] }: SoundPiece): number {
    return effects.reduce((sum, { kind }) => sum + (soundEffect(kind)?.memory ?? 0), 0)
  }

  /** First sample of the mix at which a piece is needed: earlier than it is heard by what its effects hold back. */
  static beginOf({ at, effects = [] }: SoundPiece): number {
    return at - effects.reduce((sum, { kind }) => sum + (soundEffect(kind)?.latency ?? 0), 0)
  }

  release(): void {
    this.source.release?.()
  }

  /** Reads what is heard between two places of the mix. */
  async load(from: number, to: number): Promise<void> {
    const { piece, chain } = this
    const first = Math.max(piece.at, from + chain.latency)
    const last = Math.min(piece.at + piece.length, to + chain.latency)
    if (last <= first) this.loaded = { from: first, samples: new Float32Array(0) }
    else this.loaded = { from: first, samples: await this.source.read(first - piece.at, last - first) }
  }

  /** Adds what is heard of it in the block at `at` of the mix; {@link load} has read it. */
  add(at: number, bus: Bus): void {
    const { piece, chain, loaded } = this
    if (at + QUANTUM <= PieceVoice.beginOf(piece) || at >= this.end) return
    const { left, right } = bus
    bus.added()
    const [l, r] = [this.left, this.right]
    const begin = at + chain.latency
    const { from, samples } = loaded
    const clock = piece.clock + (begin - piece.at) * TICKS_PER_SAMPLE
    if (this.plain && begin >= from && begin + QUANTUM <= from + samples.length / 2 && !this.atEdge(begin - piece.at))
      return this.addPlain(samples, (begin - from) * 2, clock, left, right)
    const first = Math.min(QUANTUM, Math.max(0, from - begin))
    const last = Math.min(QUANTUM, Math.max(first, from + samples.length / 2 - begin))
    if (first > 0 || last < QUANTUM) {
      l.fill(0)
      r.fill(0)
    }
    for (let i = first, k = (begin + first - from) * 2; i < last; i++, k += 2) {
      l[i] = samples[k]!
      r[i] = samples[k + 1]!
    }
    if (piece.channels) chooseChannels(l, r, piece.channels)
    if (piece.sides) setSides(l, r, piece.sides, clock)
    this.edges(l, r, begin - piece.at)
    if (!chain.empty) chain.process(l, r, clock)
    this.fader.process(l, r, clock - chain.latency * TICKS_PER_SAMPLE)
    this.fades(l, r, at - piece.at)
    for (let i = 0; i < QUANTUM; i++) {
      left[i]! += l[i]!
      right[i]! += r[i]!
    }
  }

  /** Whether a block reaches into an edge that is softened. */
  private atEdge(offset: number): boolean {
    const { abrupt, length } = this.piece
    return abrupt !== undefined && (offset < SOFT || offset + QUANTUM > length - SOFT)
  }

  /** A block with nothing done to it but its level: most are. */
  private addPlain(samples: Float32Array, at: number, clock: number, left: Float32Array, right: Float32Array): void {
    const { from, to } = this.fader.glide(clock)
    const kernels = soundKernels()
    kernels.input.set(samples.subarray(at, at + QUANTUM * 2))
    kernels.left.set(left)
    kernels.right.set(right)
    // Rounded as a block of its own would be, so that both ways give the same samples.
    kernels.add(from[0], from[1], (to[0] - from[0]) / QUANTUM, (to[1] - from[1]) / QUANTUM)
    left.set(kernels.left)
    right.set(kernels.right)
  }

  /** Softens edges at which nothing goes on. */
  private edges(l: Float32Array, r: Float32Array, offset: number): void {
    const { abrupt, length } = this.piece
    if (!abrupt) return
    const soft = Math.min(SOFT, length / 2)
    for (let i = 0; i < QUANTUM; i++) {
      const at = offset + i
      let gain = 1
      if (abrupt.start && at < soft) gain = (at + 0.5) / soft
      if (abrupt.end && at >= length - soft) gain = Math.min(gain, (length - at - 0.5) / soft)
      if (gain >= 1) continue
      gain = Math.max(0, gain)
      gain *= gain * (3 - 2 * gain)
      l[i]! *= gain
      r[i]! *= gain
    }
  }

  private fades(l: Float32Array, r: Float32Array, offset: number): void {
    for (const { from, length, shape, direction } of this.piece.fades ?? []) {
      if (direction === 'in' ? offset >= from + length : offset + QUANTUM <= from) continue
      for (let i = 0; i < QUANTUM; i++) {
        // Half a sample in, so that a fade and its opposite meet in the middle.
        const t = (offset + i - from + 0.5) / length
        const gain = direction === 'in' ? fadeGain(shape, t) : fadeGain(shape, 1 - t)
        if (gain === 1) continue
        l[i]! *= gain
        r[i]! *= gain
      }
    }
  }

  reductions(): Iterable<[string, number]> {
    return this.chain.reductions()
  }
}
