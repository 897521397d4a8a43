import { DelayLine } from '../../dsp/delayLine'
import { defineSoundEffect, kept, percent, preset, QUANTUM, type Settings } from '../define'
import { loadVoiceModel, VOICE_FRAME, VoiceState } from './voiceModel'

/** Samples held back: a frame until it is full, one more by which the model is late, up to whole blocks. */
const LATENCY = 1024
/** By how much more than the frame and the model the voice is late. */
const REST = LATENCY - 2 * VOICE_FRAME

/** One channel: filled at one end, taken from the other, a frame later. */
class Side {
  private readonly state = new VoiceState()
  private filling = new Float32Array(VOICE_FRAME)
  private ready = new Float32Array(VOICE_FRAME)
  private readonly late = new DelayLine(REST)

  /** @param phase place in the frame: frames lie on the owner's own time, wherever play begins */
  step(x: number, phase: number): number {
    this.filling[phase] = x
    this.late.push(this.ready[phase]!)
    if (phase === VOICE_FRAME - 1) {
      this.state.run(this.filling)
      const { ready } = this
      this.ready = this.filling
      this.filling = ready
    }
    return this.late.at(REST)
  }
}

export const voiceOnly = defineSoundEffect({
  id: 'voiceOnly',
  name: 'Voice only',
  family: 'repair',
  hint: 'Strong: a model that knows voices takes all else away. It dulls a clean voice: for the noisiest only.',
  params: [percent('amount', 'Amount', 80)],
  presets: [
    preset('windyPier', 'Windy pier', { amount: 85 }),
    preset('busyQuay', 'Busy quay', { amount: 70 }),
    preset('engineRoom', 'Engine room', { amount: 100 }),
  ],
  latency: LATENCY,
  memory: 3,
  load: loadVoiceModel,
  create() {
    const amountOf = kept((settings: Settings) => Number(settings.amount) / 100)
    const sides = [new Side(), new Side()] as const
    const dry = [new DelayLine(LATENCY), new DelayLine(LATENCY)] as const
    return {
      process(left, right, settings, at) {
        const wet = amountOf(settings)
        const first = ((at % VOICE_FRAME) + VOICE_FRAME) % VOICE_FRAME
        for (const [n, block] of [left, right].entries())
          for (let i = 0; i < QUANTUM; i++) {
            const x = block[i]!
            dry[n]!.push(x)
            const voice = sides[n]!.step(x, (first + i) % VOICE_FRAME)
            block[i] = dry[n]!.at(LATENCY) * (1 - wet) + voice * wet
          }
      },
    }
  },
})
