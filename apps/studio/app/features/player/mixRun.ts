import { TICKS_PER_SAMPLE, type SoundPlan } from '@dusk/timeline'
import { Mixer, varispeed, type MeterTap, type SourceOf, type StretchEngines, type Stretcher } from '@dusk/sound'

/** Speed up to which play keeps its pitch. */
const PITCH_KEPT = 2
/** Seconds that effects are run up while something else is heard already. */
const SHORT_RUN_UP = 1

/** What is heard from a place on, at a speed: output samples, counted from where play began. */
export interface MixRun {
  render(count: number): Promise<Float32Array>
  release(): void
}

/** Play at the reel's own speed. */
class PlainRun implements MixRun {
  private constructor(private readonly mixer: Mixer) {}

  static async begin(plan: SoundPlan, sourceOf: SourceOf, tap: MeterTap | undefined, first: number, brief: boolean) {
    const mixer = new Mixer(plan, sourceOf, tap)
    await mixer.seek(first, brief ? SHORT_RUN_UP : undefined)
    return new PlainRun(mixer)
  }

  render(count: number): Promise<Float32Array> {
    return this.mixer.render(count)
  }

  release(): void {
    this.mixer.release()
  }
}

/** Forwards at up to twice the speed, pitch kept. */
class SwiftRun implements MixRun {
  private taken = 0
  private made = 0

  private constructor(
    private readonly mixer: Mixer,
    private readonly stretcher: Stretcher,
    private readonly speed: number,
  ) {}

  static async begin(plan: SoundPlan, sourceOf: SourceOf, engines: StretchEngines, first: number, speed: number) {
    const mixer = new Mixer(plan, sourceOf)
    await mixer.seek(first, SHORT_RUN_UP)
    const run = new SwiftRun(mixer, (await engines.music()).create(0), speed)
    const { outputLatency, inputLatency } = run.stretcher
    run.stretcher.process(await mixer.render(inputLatency), 1)
    await run.render(outputLatency)
    return run
  }

  async render(count: number): Promise<Float32Array> {
    this.made += count
    const wanted = Math.round(this.made * this.speed)
    const input = await this.mixer.render(wanted - this.taken)
    this.taken = wanted
    return this.stretcher.process(input, count)
  }

  release(): void {
    this.mixer.release()
    this.stretcher.release()
  }
}

/** Faster, or backwards: wound like a tape, where the person listens for a place and not for the tone. */
class WoundRun implements MixRun {
  private made = 0

  constructor(
    private readonly plan: SoundPlan,
    private readonly sourceOf: SourceOf,
    private readonly first: number,
    private readonly speed: number,
  ) {}

  async render(count: number): Promise<Float32Array> {
    const { first, speed } = this
    const from = first + this.made * speed
    const to = from + (count - 1) * speed
    this.made += count
    const low = Math.max(0, Math.floor(Math.min(from, to)))
    const high = Math.max(low + 2, Math.ceil(Math.max(from, to)) + 2)
    const mixer = new Mixer(this.plan, this.sourceOf)
    await mixer.seek(low, 0)
    const block = await mixer.render(high - low)
    mixer.release()
    return varispeed(block, from - low, speed, count)
  }

  release(): void {}
}

/**
 * Begins to play a plan.
 * @param tap meters that play at the reel's own speed is shown on; without them nothing is measured
 * @param start reel position in ticks @param brief whether effects may be run up for less
 */
export async function beginRun(
  plan: SoundPlan,
  sourceOf: SourceOf,
  engines: StretchEngines,
  tap: MeterTap | undefined,
  { start, speed, brief = false }: { start: number; speed: number; brief?: boolean },
): Promise<MixRun> {
  const first = Math.round(start / TICKS_PER_SAMPLE)
  if (speed === 1) return PlainRun.begin(plan, sourceOf, tap, first, brief)
  if (speed > 0 && speed <= PITCH_KEPT) return SwiftRun.begin(plan, sourceOf, engines, first, speed)
  return new WoundRun(plan, sourceOf, first, speed)
}
