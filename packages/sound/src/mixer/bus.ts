import { TICKS_PER_SAMPLE, type SoundChannelPlan } from '@dusk/timeline'
import { QUANTUM } from '../effects'
import { EffectChain } from './chain'
import { Fader } from './channel'

/** Where sounds are summed: a track, or the whole reel. Effects come first, then gain, level and pan. */
export class Bus {
  readonly left = new Float32Array(QUANTUM)
  readonly right = new Float32Array(QUANTUM)
  private readonly chain: EffectChain
  private readonly fader: Fader
  /** Something was added to this block. */
  private heard = false

  constructor(plan: SoundChannelPlan) {
    this.chain = new EffectChain(plan.effects ?? [])
    this.fader = new Fader(plan)
  }

  get latency(): number {
    return this.chain.latency
  }

  get memory(): number {
    return this.chain.memory
  }

  /** Begins a block. */
  clear(): void {
    if (this.silent) return
    this.left.fill(0)
    this.right.fill(0)
    this.heard = false
  }

  /** Says that a block was added to {@link left} and {@link right}. */
  added(): void {
    this.heard = true
  }

  /** Nothing was added to the block, and no effect still has something to say. */
  get silent(): boolean {
    return !this.heard && this.chain.empty
  }

  /** @param clock reel time of what comes out, in ticks */
  process(clock: number): void {
    if (this.silent) return this.fader.rest()
    this.chain.process(this.left, this.right, clock + this.chain.latency * TICKS_PER_SAMPLE)
    this.fader.process(this.left, this.right, clock)
  }

  reductions(): Iterable<[string, number]> {
    return this.chain.reductions()
  }
}
