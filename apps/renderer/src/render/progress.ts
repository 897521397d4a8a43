import type { RenderProgress } from '@dusk/store'

/** Reports progress a few times a second, with the time left from the pace so far. */
export class ProgressMeter {
  private done = 0
  private made = 0
  private readonly began = Date.now()
  private last = 0

  constructor(
    private readonly frames: number,
    private readonly report?: (progress: RenderProgress) => void,
  ) {}

  add(count: number): void {
    this.done += count
    this.made += count
    if (Date.now() - this.last > 300) this.say('picture')
  }

  /** Frames that were there already; they say nothing about the pace. */
  reuse(count: number): void {
    this.done += count
    this.say('picture')
  }

  /** Frames that are there by now, of which so many were made for this render. */
  reach(done: number, made: number): void {
    this.done = done
    this.made = made
    if (Date.now() - this.last > 300) this.say('picture')
  }

  stage(stage: RenderProgress['stage']): void {
    this.say(stage)
  }

  /** Of what is done once more with all frames, so many hundredths. */
  fitted(part: number): void {
    if (Date.now() - this.last < 300) return
    this.last = Date.now()
    this.report?.({ stage: 'fitting', framesDone: Math.round(part * 100), frames: 100, pace: null, secondsLeft: null })
  }

  private say(stage: RenderProgress['stage']): void {
    this.last = Date.now()
    const seconds = (this.last - this.began) / 1000
    const secondsLeft = this.made < 10 ? null : (seconds / this.made) * (this.frames - this.done)
    const pace = this.made < 10 ? null : this.made / seconds
    this.report?.({ stage, framesDone: this.done, frames: this.frames, pace, secondsLeft })
  }
}
