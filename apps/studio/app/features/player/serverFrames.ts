import type { DecoderBackend, FrameRequest, RunningDecoder } from '@dusk/compositor'
import type { DecodedFrame } from './browserDecoders'

/** Pixels of the longer side while they follow each other: all of them have to come through in time. */
const RUNNING = 640

/** A stream of frames that the server decodes, read as it comes. */
interface Stream {
  width: number
  height: number
  reader: ReadableStreamDefaultReader<Uint8Array>
}

/**
 * Frames of originals that the server decodes, at the size of a proxy and smaller while they play: for what the browser
 * can't decode, or not fast enough. Sources are named by the addresses of their frames.
 */
export class ServerFrames implements DecoderBackend<DecodedFrame> {
  open({ source, frame }: FrameRequest): RunningDecoder<DecodedFrame> {
    const stop = new AbortController()
    let stream: Promise<Stream> | null = null
    /** What came behind the last frame. */
    let rest: Uint8Array | null = null
    return {
      read: async () => {
        stream ??= request(`${source}?from=${frame}&longest=${RUNNING}`, stop.signal)
        try {
          const { width, height, reader } = await stream
          const planes = new Uint8Array(width * height + 2 * ((width + 1) >> 1) * ((height + 1) >> 1))
          let filled = 0
          while (filled < planes.length) {
            const piece: Uint8Array | undefined = rest ?? (await reader.read()).value
            if (!piece) return null
            const part = piece.subarray(0, planes.length - filled)
            planes.set(part, filled)
            filled += part.length
            rest = part.length < piece.length ? piece.subarray(part.length) : null
          }
          return { width, height, planes, matrix: 'bt709', range: 'limited' }
        } catch (error) {
          if (stop.signal.aborted) return null
          throw error
        }
      },
      close: () => stop.abort(),
    }
  }

  async single(wanted: FrameRequest): Promise<DecodedFrame | null> {
    const response = await fetch(`${wanted.source}?from=${wanted.frame}&count=1`)
    const { width, height } = sizeOf(response)
    const planes = new Uint8Array(await response.arrayBuffer())
    return planes.length > 0 ? { width, height, planes, matrix: 'bt709', range: 'limited' } : null
  }

  groupStart({ frame }: FrameRequest): number {
    // A decoder that begins earlier costs little beside one that begins again for each frame.
    return Math.max(0, frame - 14)
  }

  bytes(frame: DecodedFrame): number {
    return frame.planes.length
  }

  release(): void {
    // Planes are plain memory of the page's.
  }
}

async function request(url: string, signal: AbortSignal): Promise<Stream> {
  const response = await fetch(url, { signal })
  return { ...sizeOf(response), reader: response.body!.getReader() }
}

function sizeOf(response: Response): { width: number; height: number } {
  if (!response.ok) throw new Error(`A frame of a source could not be fetched (${response.status}).`)
  return { width: Number(response.headers.get('dusk-width')), height: Number(response.headers.get('dusk-height')) }
}
