import { ALL_FORMATS, Input, UrlSource, VideoSampleSink, type VideoSample } from 'mediabunny'

/** A decoded frame: 4:2:0 planes, tightly packed. */
export interface DecodedFrame {
  width: number
  height: number
  planes: Uint8Array
  matrix: 'bt601' | 'bt709'
  range: 'limited' | 'full'
}

interface Lane {
  samples: AsyncGenerator<VideoSample, void, unknown>
  /** Number of the frame that comes next. */
  next: number
  used: number
}

/** Frames decoded on rather than sought. */
const RUN_ON = 20
/** Runs of decoding kept open for one source. */
const MOST_LANES = 6
/** Frames between a proxy's keyframes: going backwards decodes as many at once. */
const KEYFRAMES = 15

/** How a file's frames are found: the time of frame n in seconds, and the number of the frame at a time. */
export interface FrameClock {
  time(frame: number): number
  frame(time: number): number
}

/** Decodes one file's frames by their numbers, in runs while play goes on, one by one when scrubbing. */
export class FrameFeed {
  private readonly opened: Promise<VideoSampleSink>
  private readonly input: Input
  private lanes: Lane[] = []
  private clock = 0

  constructor(
    url: string,
    private readonly frames: FrameClock,
    private readonly keep: (frame: number, decoded: DecodedFrame) => void,
  ) {
    this.input = new Input({ source: new UrlSource(url), formats: ALL_FORMATS })
    this.opened = this.input.getPrimaryVideoTrack().then((track) => {
      if (!track) throw new Error('The preview file has no picture.')
      return new VideoSampleSink(track)
    })
    this.opened.catch(() => {})
  }

  /** Decodes frame `number` and hands it, with any passed on the way, to `keep`. */
  async decode(number: number, running: 'forward' | 'backward' | 'still'): Promise<void> {
    const sink = await this.opened
    this.clock++
    let lane = this.lanes
      .filter((entry) => number >= entry.next && number - entry.next <= RUN_ON)
      .sort((a, b) => b.next - a.next)[0]
    if (!lane && running === 'still') {
      const sample = await sink.getSample(this.frames.time(number))
      if (sample) await this.take(number, sample)
      return
    }
    const first = running === 'backward' ? number - (number % KEYFRAMES) : number
    if (!lane) lane = this.open(sink, first)
    lane.used = this.clock
    while (lane.next <= number) {
      const { value, done } = await lane.samples.next()
      if (done || !value) {
        this.close(lane)
        return
      }
      const frame = this.frames.frame(value.timestamp)
      lane.next = frame + 1
      // Going forward, frames that play has already passed are not worth copying; going back, they come next.
      if (frame === number || (running === 'backward' && frame >= first)) await this.take(frame, value)
      else value.close()
    }
  }

  /** Starts a run that will be wanted soon. */
  async prepare(number: number): Promise<void> {
    const sink = await this.opened
    if (this.lanes.some((lane) => number >= lane.next - 1 && number - lane.next <= 40)) return
    this.open(sink, number).used = ++this.clock
  }

  dispose(): void {
    for (const lane of [...this.lanes]) this.close(lane)
    this.input.dispose()
  }

  private open(sink: VideoSampleSink, number: number): Lane {
    if (this.lanes.length >= MOST_LANES) this.close(this.lanes.reduce((a, b) => (b.used < a.used ? b : a)))
    const lane: Lane = { samples: sink.samples(this.frames.time(number)), next: number, used: this.clock }
    this.lanes.push(lane)
    return lane
  }

  private close(lane: Lane): void {
    this.lanes = this.lanes.filter((entry) => entry !== lane)
    void lane.samples.return()
  }

  private async take(frame: number, sample: VideoSample): Promise<void> {
    try {
      const planes = await toPlanes(sample)
      const { matrix, fullRange } = sample.colorSpace
      this.keep(frame, {
        width: sample.codedWidth,
        height: sample.codedHeight,
        planes,
        matrix: matrix === 'smpte170m' || matrix === 'bt470bg' ? 'bt601' : 'bt709',
        range: fullRange ? 'full' : 'limited',
      })
    } finally {
      sample.close()
    }
  }
}

/** Planes of a decoded picture as 4:2:0. Decoders here give I420, some NV12. */
async function toPlanes(sample: VideoSample): Promise<Uint8Array> {
  const { width, height } = sample.visibleRect
  const [cw, ch] = [(width + 1) >> 1, (height + 1) >> 1]
  if (sample.format === 'I420') {
    const planes = new Uint8Array(width * height + 2 * cw * ch)
    await sample.copyTo(planes, {
      layout: [
        { offset: 0, stride: width },
        { offset: width * height, stride: cw },
        { offset: width * height + cw * ch, stride: cw },
      ],
    })
    return planes
  }
  if (sample.format === 'NV12') {
    const raw = new Uint8Array(width * height + 2 * cw * ch)
    await sample.copyTo(raw, {
      layout: [
        { offset: 0, stride: width },
        { offset: width * height, stride: cw * 2 },
      ],
    })
    const planes = new Uint8Array(raw.length)
    planes.set(raw.subarray(0, width * height))
    for (let i = 0; i < cw * ch; i++) {
      planes[width * height + i] = raw[width * height + 2 * i]!
      planes[width * height + cw * ch + i] = raw[width * height + 2 * i + 1]!
    }
    return planes
  }
  throw new Error(`This browser decodes to ${sample.format ?? 'an unknown format'}, which can’t be drawn from.`)
}
