import { isAnimated, resolveParams, TICKS_PER_SAMPLE, type SoundEffectPlan } from '@dusk/timeline'
import { DelayLine } from '../dsp/delayLine'
import { QUANTUM, soundEffect, type Settings, type SoundEffect, type SoundEffectKind } from '../effects'

interface Link {
  id: string
  kind: SoundEffectKind
  effect: SoundEffect
  plan: SoundEffectPlan
  /** Settings that never change, worked out once. */
  fixed: Settings | null
  dry: { left: DelayLine; right: DelayLine; latency: number } | null
}

/** A stack of effects at work. */
export class EffectChain {
  private readonly links: Link[] = []
  /** Samples that come out later than they went in. */
  readonly latency: number
  /** Seconds for which something that was heard still matters. */
  readonly memory: number
  private readonly spare = [new Float32Array(QUANTUM), new Float32Array(QUANTUM)] as const

  /** @param plans effects this version does not know are passed over */
  constructor(plans: readonly SoundEffectPlan[]) {
    for (const plan of plans) {
      const kind = soundEffect(plan.kind)
      if (!kind) continue
      const latency = kind.latency ?? 0
      const moves = Object.values(plan.settings).some(isAnimated)
      this.links.push({
        id: plan.id,
        kind,
        plan,
        effect: kind.create(),
        fixed: moves ? null : resolveParams(kind.params, plan.settings, 0),
        dry: plan.strength < 100 ? { left: new DelayLine(latency), right: new DelayLine(latency), latency } : null,
      })
    }
    this.latency = this.links.reduce((sum, { kind }) => sum + (kind.latency ?? 0), 0)
    this.memory = this.links.reduce((sum, { kind }) => sum + kind.memory, 0)
  }

  get empty(): boolean {
    return this.links.length === 0
  }

  /** @param clock the owner's time at the block's first sample, in ticks */
  process(left: Float32Array, right: Float32Array, clock: number): void {
    const at = Math.round(clock / TICKS_PER_SAMPLE)
    for (const { effect, kind, plan, fixed, dry } of this.links) {
      const settings = fixed ?? resolveParams(kind.params, plan.settings, clock)
      if (!dry) {
        effect.process(left, right, settings, at)
        continue
      }
      const [l, r] = this.spare
      l.set(left)
      r.set(right)
      effect.process(l, r, settings, at)
      const wet = plan.strength / 100
      for (let i = 0; i < QUANTUM; i++) {
        dry.left.push(left[i]!)
        dry.right.push(right[i]!)
        left[i] = dry.left.at(dry.latency) * (1 - wet) + l[i]! * wet
        right[i] = dry.right.at(dry.latency) * (1 - wet) + r[i]! * wet
      }
    }
  }

  /** Fetches what effects need before they are heard. */
  static async load(plans: readonly SoundEffectPlan[]): Promise<void> {
    await Promise.all(plans.map((plan) => soundEffect(plan.kind)?.load?.()))
  }

  /** How much each effect of the stack holds down, in decibels, by its id. */
  *reductions(): Generator<[string, number]> {
    for (const { id, effect } of this.links) if (effect.reduction !== undefined) yield [id, effect.reduction]
  }
}
