import { delayOf, PROBE } from '@dusk/sound'
import recorderUrl from './recorder.worklet.ts?worker&url'

/** What a microphone heard, mono at 48 kHz. */
export interface RecordedPiece {
  samples: Float32Array<ArrayBuffer>
  /** Clock of the sound card at its first sample. */
  clock: number
  /** Samples of the reel that had been played by then; −1 while it does not play. */
  played: number
}

/** Probes that are sent to measure a delay, and samples between them. */
const PROBES = 6
const APART = 28_800

/** Why a microphone could not be opened, in words. */
export function inputTrouble(error: unknown): string {
  switch ((error as DOMException).name) {
    case 'NotAllowedError':
      return 'The browser may not use the microphone. Allow it beside the page’s address, then press again.'
    case 'NotFoundError':
    case 'OverconstrainedError':
      return 'No microphone was found. Plug one in, then press again.'
    case 'NotReadableError':
      return 'The microphone could not be opened: another program may be using it.'
    default:
      return `The microphone could not be opened: ${(error as Error).message}`
  }
}

/** An open microphone. */
export class SoundInput {
  /** What hears each piece. */
  onPiece: (piece: RecordedPiece) => void = () => {}
  /** Called when it is unplugged or taken away. */
  onLost: () => void = () => {}

  private constructor(
    private readonly audio: AudioContext,
    private readonly stream: MediaStream,
    private readonly nodes: AudioNode[],
    private readonly output: AudioNode,
  ) {}

  /**
   * @param deviceId one of {@link inputs}, or `null` for the browser's choice
   * @throws {Error} in words: no microphone, not allowed, in use
   */
  static async open(
    audio: AudioContext,
    ring: SharedArrayBuffer,
    output: AudioNode,
    deviceId: string | null,
  ): Promise<SoundInput> {
    if (!navigator.mediaDevices)
      throw new Error('This browser gives pages no microphone here. Open Dusk Reel by localhost or over https.')
    let stream: MediaStream
    try {
      stream = await navigator.mediaDevices.getUserMedia({
        audio: {
          ...(deviceId ? { deviceId: { exact: deviceId } } : {}),
          // Made for telephoning: they cut words off and pump.
          echoCancellation: false,
          noiseSuppression: false,
          autoGainControl: false,
        },
      })
    } catch (error) {
      throw new Error(inputTrouble(error), { cause: error })
    }
    await audio.audioWorklet.addModule(recorderUrl)
    const source = audio.createMediaStreamSource(stream)
    const recorder = new AudioWorkletNode(audio, 'recorder', { numberOfOutputs: 0 })
    recorder.port.postMessage(ring)
    source.connect(recorder)
    const input = new SoundInput(audio, stream, [source, recorder], output)
    recorder.port.onmessage = ({ data }: MessageEvent<RecordedPiece>) => input.onPiece(data)
    for (const track of stream.getAudioTracks()) track.onended = () => input.onLost()
    return input
  }

  /** Microphones that can be chosen; their names are known once one was opened. */
  static async inputs(): Promise<{ id: string; name: string }[]> {
    const devices = (await navigator.mediaDevices?.enumerateDevices()) ?? []
    return devices
      .filter(({ kind }) => kind === 'audioinput')
      .map(({ deviceId, label }, i) => ({ id: deviceId, name: label || `Microphone ${i + 1}` }))
  }

  /** Samples by which the browser says that what is heard comes later than what is played. */
  get saidDelay(): number {
    const settings = this.stream.getAudioTracks()[0]?.getSettings() as
      (MediaTrackSettings & { latency?: number }) | undefined
    return Math.round(((this.audio.outputLatency || this.audio.baseLatency || 0) + (settings?.latency ?? 0)) * 48_000)
  }

  /**
   * Measures the way from the loudspeaker to the microphone: sweeps are played and looked for in what is heard.
   * @returns samples, or `null` when they were not heard
   */
  async measureDelay(): Promise<number | null> {
    const { audio } = this
    const buffer = audio.createBuffer(1, PROBES * APART, 48_000)
    for (let i = 0; i < PROBES; i++) buffer.copyToChannel(PROBE as Float32Array<ArrayBuffer>, 0, i * APART)
    const source = audio.createBufferSource()
    source.buffer = buffer
    source.connect(this.output)
    const pieces: RecordedPiece[] = []
    const before = this.onPiece
    this.onPiece = (piece) => {
      before(piece)
      pieces.push(piece)
    }
    const start = audio.currentTime + 0.2
    source.start(start)
    await new Promise((resolve) => setTimeout(resolve, (PROBES * APART) / 48 + 900))
    this.onPiece = before
    const first = pieces[0]
    if (!first) return null
    const heard = new Float32Array(pieces.reduce((sum, { samples }) => sum + samples.length, 0))
    for (const piece of pieces) heard.set(piece.samples, Math.min(heard.length, piece.clock - first.clock))
    const sent = Math.round(start * 48_000) - first.clock
    return delayOf(
      heard,
      Array.from({ length: PROBES }, (_, i) => sent + i * APART),
    )
  }

  close(): void {
    for (const node of this.nodes) node.disconnect()
    for (const track of this.stream.getTracks()) track.stop()
  }
}
