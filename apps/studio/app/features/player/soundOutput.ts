import { SAMPLE_RATE } from '@dusk/timeline'
import workletUrl from './ring.worklet.ts?worker&url'
import { SoundInput } from './soundInput'
import { CONTROL, createRingMemory, openRing, type Ring } from './ring'

/**
 * The sound card, fed from a ring of samples. What it has played is the clock that picture and playhead follow. Without
 * a sound card the same clock is kept by the page's timer, so that play still runs.
 */
export class SoundOutput {
  readonly memory = createRingMemory()
  readonly ring: Ring = openRing(this.memory)
  private audio: AudioContext | null = null
  private out: GainNode | null = null
  private silentClock: ReturnType<typeof setInterval> | null = null

  /** Opens the sound card; browsers allow that only after something was pressed. */
  async wake(): Promise<void> {
    if (!this.audio) {
      this.audio = new AudioContext({ sampleRate: SAMPLE_RATE, latencyHint: 'interactive' })
      await this.audio.audioWorklet.addModule(workletUrl)
      const node = new AudioWorkletNode(this.audio, 'ring-player', { numberOfInputs: 0, outputChannelCount: [2] })
      node.port.postMessage(this.memory)
      this.out = this.audio.createGain()
      node.connect(this.out)
      this.out.connect(this.audio.destination)
    }
    await Promise.race([this.audio.resume(), new Promise((resolve) => setTimeout(resolve, 700))])
    if (this.audio.state !== 'running' && !this.silentClock) this.keepTimeWithoutSound()
  }

  /** What plays is heard, or runs on in silence. */
  set muted(muted: boolean) {
    if (this.out) this.out.gain.value = muted ? 0 : 1
  }

  /** Opens a microphone beside it, on the same clock. @throws {Error} in words */
  async input(deviceId: string | null): Promise<SoundInput> {
    await this.wake()
    if (this.audio?.state !== 'running')
      throw new Error('The browser has no sound card to run on, so nothing can be recorded here.')
    return SoundInput.open(this.audio, this.memory, this.audio.destination, deviceId)
  }

  /** Starts counting anew, in silence until {@link roll}. */
  rewind(): void {
    const { control } = this.ring
    Atomics.store(control, CONTROL.running, 0)
    for (const place of [CONTROL.written, CONTROL.played, CONTROL.underruns]) Atomics.store(control, place, 0)
  }

  roll(): void {
    Atomics.store(this.ring.control, CONTROL.running, 1)
  }

  halt(): void {
    Atomics.store(this.ring.control, CONTROL.running, 0)
  }

  /** Samples between the worklet and the ear. */
  latency(): number {
    const { audio } = this
    return audio?.state === 'running' ? Math.round((audio.outputLatency || audio.baseLatency || 0) * SAMPLE_RATE) : 0
  }

  /** Samples that have reached the ear since {@link rewind}. */
  heard(): number {
    return Math.max(0, Atomics.load(this.ring.control, CONTROL.played) - this.latency())
  }

  /** Peaks of left and right since they were last asked for; 1 is full scale. */
  peaks(): [number, number] {
    const { control } = this.ring
    return [Atomics.exchange(control, CONTROL.peakLeft, 0) / 1e6, Atomics.exchange(control, CONTROL.peakRight, 0) / 1e6]
  }

  /** Times the sound ran dry since {@link rewind}. */
  get underruns(): number {
    return Atomics.load(this.ring.control, CONTROL.underruns)
  }

  dispose(): void {
    if (this.silentClock) clearInterval(this.silentClock)
    void this.audio?.close()
  }

  /** No sound card: the ring is emptied at the pace of the page's own clock. */
  private keepTimeWithoutSound(): void {
    let last = performance.now()
    this.silentClock = setInterval(() => {
      const now = performance.now()
      const due = Math.round(((now - last) / 1000) * SAMPLE_RATE)
      last = now
      const { control } = this.ring
      if (this.audio?.state === 'running' || Atomics.load(control, CONTROL.running) === 0) return
      const there = Atomics.load(control, CONTROL.written) - Atomics.load(control, CONTROL.played)
      Atomics.add(control, CONTROL.played, Math.min(due, there))
    }, 10)
  }
}
