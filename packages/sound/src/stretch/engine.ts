/** A stretcher at work on one stretch of sound: as many samples go in and come out as it is told each time. */
export interface Stretcher {
  /** Samples of input that are needed ahead of the place that is being made. */
  readonly inputLatency: number
  /** Samples by which output comes later than its place. */
  readonly outputLatency: number
  /**
   * Takes `input` in and gives `count` samples.
   * @param input interleaved stereo
   */
  process(input: Float32Array, count: number): Float32Array
  release(): void
}

/** Makes stretchers of one character. */
export interface StretchEngine {
  /** @param semitones how much higher it sounds, whatever the speed */
  create(semitones: number): Stretcher
}

/** The engines there are; each is made ready when it is first needed. */
export interface StretchEngines {
  music(): Promise<StretchEngine>
  speech(): Promise<StretchEngine>
}
