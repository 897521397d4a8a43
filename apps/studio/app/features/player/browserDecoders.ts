import type { DecoderBackend, FrameRequest, RunningDecoder } from '@dusk/compositor'
import { PROXY_KEYFRAMES } from '@dusk/timeline'
import { ALL_FORMATS, Input, UrlSource, VideoSampleSink, type VideoSample } from 'mediabunny'
import type { FrameClock } from './frameClock'

/** A decoded frame: 4:2:0 planes, tightly packed. */
export interface DecodedFrame {
  width: number
  height: number
  planes: Uint8Array
  matrix: 'bt601' | 'bt709'
  range: 'limited' | 'full'
}

interface OpenFile {
  input: Input
  sink: Promise<VideoSampleSink>
}

/** Files that are kept open, whether or not a decoder runs on them. */
const OPEN_FILES = 24

/** Decodes files by WebCodecs. Sources are named by their addresses. */
export class BrowserDecoders implements DecoderBackend<DecodedFrame> {
  private readonly files = new Map<string, OpenFile>()

  /** @param clockOf how the frames of a file are found, by its address */
  constructor(private readonly clockOf: (source: string) => FrameClock | Promise<FrameClock>) {}

  open({ source, frame }: FrameRequest): RunningDecoder<DecodedFrame> {
    let clock: FrameClock | null = null
    let samples: AsyncGenerator<VideoSample, void, unknown> | null = null
    let next = frame
    /** A frame that was decoded before its number was due, as where a file leaves one out. */
    let early: { number: number; frame: DecodedFrame } | null = null
    let last: DecodedFrame | null = null
    let closed = false
    return {
      read: async () => {
        clock ??= await this.clockOf(source)
        samples ??= (await this.sinkOf(source)).samples(clock.time(frame))
        while (!early && !closed) {
          const { value, done } = await samples.next()
          if (done || !value) return null
          const number = clock.frame(value.timestamp)
          if (number < next) value.close()
          else early = { number, frame: await toFrame(value) }
        }
        if (!early) return null
        // A number that the file does not have shows the frame before it.
        if (early.number > next && last) {
          next++
          return last
        }
        last = early.frame
        early = null
        next++
        return last
      },
      close: () => {
        closed = true
        void samples?.return().catch(() => {})
      },
    }
  }

  async single({ source, frame }: FrameRequest): Promise<DecodedFrame | null> {
    const clock = await this.clockOf(source)
    const sample = await (await this.sinkOf(source)).getSample(clock.time(frame))
    return sample ? toFrame(sample) : null
  }

  groupStart({ frame }: FrameRequest): number {
    return frame - (frame % PROXY_KEYFRAMES)
  }

  bytes(frame: DecodedFrame): number {
    return frame.planes.length
  }

  release(): void {
    // Planes are plain memory of the page's.
  }

  dispose(): void {
    for (const { input } of this.files.values()) input.dispose()
    this.files.clear()
  }

  private sinkOf(url: string): Promise<VideoSampleSink> {
    let file = this.files.get(url)
    if (!file) {
      const input = new Input({ source: new UrlSource(url), formats: ALL_FORMATS })
      const sink = input.getPrimaryVideoTrack().then((track) => {
        if (!track) throw new Error('The preview file has no picture.')
        return new VideoSampleSink(track)
      })
      file = { input, sink }
      sink.catch(() => this.files.delete(url))
    }
    this.files.delete(url)
    this.files.set(url, file)
    for (const [oldest, old] of this.files) {
      if (this.files.size <= OPEN_FILES) break
      this.files.delete(oldest)
      old.input.dispose()
    }
    return file.sink
  }
}

async function toFrame(sample: VideoSample): Promise<DecodedFrame> {
  try {
    const planes = await toPlanes(sample)
    const { matrix, fullRange } = sample.colorSpace
    return {
      // What is coded may be larger than what is seen.
      width: sample.visibleRect.width,
      height: sample.visibleRect.height,
      planes,
      matrix: matrix === 'smpte170m' || matrix === 'bt470bg' ? 'bt601' : 'bt709',
      range: fullRange ? 'full' : 'limited',
    }
  } finally {
    sample.close()
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
