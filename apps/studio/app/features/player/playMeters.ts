import { shallowRef } from 'vue'
import type { Meters } from './messages'

/** What is left of a peak each time it is looked: levels fall by about 80 dB a second. */
const FALL = 0.55
/** A level below which nothing is shown. */
const LEAST = 0.0005

/** Levels and readings of the mixer, shown at the moment that what they tell of is heard. */
export class PlayMeters {
  /** Peaks of both sides, as factors of full scale. */
  readonly levels = shallowRef<[number, number]>([0, 0])
  /** What passes through the mixer now; `null` while nothing plays. */
  readonly reading = shallowRef<Meters | null>(null)
  /** Readings for what is not heard yet, in order. */
  private waiting: Meters[] = []

  take(reading: Meters): void {
    this.waiting.push(reading)
  }

  /** Forgets what was read for another run. */
  restart(): void {
    this.waiting = []
  }

  /** Nothing plays any more. */
  rest(): void {
    this.reading.value = null
  }

  /** Shows the reading for what is heard now. @param heard samples since play began */
  follow(heard: number): void {
    let last: Meters | undefined
    while (this.waiting[0] && this.waiting[0].at <= heard) last = this.waiting.shift()
    if (last) this.reading.value = last
  }

  /** @param peaks highest of both sides since the last time */
  followLevels(peaks: readonly [number, number]): void {
    const [left, right] = this.levels.value
    if (left > LEAST || right > LEAST || peaks[0] > 0 || peaks[1] > 0)
      this.levels.value = [Math.max(peaks[0], left * FALL), Math.max(peaks[1], right * FALL)]
  }
}
