import type { DecoderBackend, FrameRequest, RunningDecoder } from '@dusk/compositor'
import { BrowserDecoders, type DecodedFrame } from './browserDecoders'
import type { FrameClock } from './frameClock'
import { ServerFrames } from './serverFrames'

/** Frames that are decoded on rather than sought while playing: of a proxy, and of an original. */
const NEAR = 20
const FAR = 150

/** Decodes previews and originals: in the browser, or by the server where the source names frames of its. */
export class PreviewDecoders implements DecoderBackend<DecodedFrame> {
  private readonly browser: BrowserDecoders
  private readonly server = new ServerFrames()

  constructor(clockOf: (source: string) => FrameClock | Promise<FrameClock>) {
    this.browser = new BrowserDecoders(clockOf)
  }

  open(request: FrameRequest): RunningDecoder<DecodedFrame> {
    return this.of(request).open(request)
  }

  single(request: FrameRequest): Promise<DecodedFrame | null> {
    return this.of(request).single(request)
  }

  groupStart(request: FrameRequest): number {
    return this.of(request).groupStart(request)
  }

  bytes(frame: DecodedFrame): number {
    return frame.planes.length
  }

  release(): void {
    // Planes are plain memory of the page's.
  }

  /** Keyframes of proxies are near each other; those of originals often seconds apart. */
  skip(source: string): number {
    return source.startsWith('/api/artefacts/') ? NEAR : FAR
  }

  private of({ source }: FrameRequest): BrowserDecoders | ServerFrames {
    return source.endsWith('/planes') ? this.server : this.browser
  }
}
