import type { ChildProcess } from 'node:child_process'
import type { Socket } from 'node:net'
import type { SourceMetadata } from '@dusk/timeline'
import { words } from './arguments'
import { i420Size } from './i420'
import { keySeekTime, seekTime } from './frames'
import { socketPair } from './socketPair'
import { ended, inputArgs, startTool, tail, ToolError } from './tool'

/** What decoding needs to know of a source to find and prepare its frames. */
export type PictureSource = Pick<
  SourceMetadata,
  'container' | 'start' | 'zero' | 'seekable' | 'table' | 'width' | 'height' | 'filters' | 'videoIndex'
>

/** Containers without an index: seeking in them lands anywhere near, so decoding starts well before. */
export const LOOSE_SEEKING = /mpeg|mpegts|asf|avi|flv|h264|hevc|gif/

/**
 * How ffmpeg is told to begin at a frame: arguments before the input, and filters that drop what comes too early.
 * @param key the frame is known to stand by itself: nothing before it has to be decoded
 */
export function frameReaderInput(
  source: PictureSource,
  frame: number,
  key = false,
): { before: string[]; filters: string[] } {
  if (frame <= 0) return { before: [], filters: [] }
  if (!source.seekable) return { before: [], filters: [`select='gte(n,${frame})'`] }
  const { at, clock } = seekTime(source.table!, source.zero, source.start, frame)
  const lead = LOOSE_SEEKING.test(source.container) ? 4 : 0
  const from = key ? keySeekTime(source.table!, source.zero, source.start, frame) : at - lead
  return {
    // Frames are told by their own time stamps: after a seek, some containers' clocks no longer begin where they did.
    before: words(`-copyts -noaccurate_seek -ss ${Math.max(0, from).toFixed(6)}`),
    filters: [`select='gte(t,${clock.toFixed(6)})'`],
  }
}

/** How ffmpeg is told to decode a source from a frame on: arguments before the input, and filters to 4:2:0 planes. */
export function decodingArgs(
  source: PictureSource,
  first: number,
  step: number,
  key = false,
): { before: string[]; chain: string[] } {
  const { before, filters } = frameReaderInput(source, first, key)
  const some = step > 1 ? [`select='not(mod(n,${step}))'`] : []
  // Left out as early as can be; what is woven of two fields needs its neighbours.
  const woven = source.filters.some((filter) => filter.includes('dif'))
  const own = woven ? [...source.filters, ...some] : [...some, ...source.filters]
  return {
    before: words('-v error -nostdin -max_error_rate 1', before),
    chain: [...filters, ...own, 'format=yuv420p'],
  }
}

/** Whole frames that may wait to be read before the decoder has to. */
const HELD_FRAMES = 2

/** Where a reader gets the buffers that it reads frames into, and gives back those that nobody took. */
export interface FrameBuffers {
  take(size: number): Buffer
  give(buffer: Buffer): void
}

/** Buffers of one reader, used again as they come back. */
function ownBuffers(): FrameBuffers {
  const spare: Buffer[] = []
  return { take: (size) => spare.pop() ?? Buffer.allocUnsafeSlow(size), give: (buffer) => spare.push(buffer) }
}

/**
 * Decodes a source's frames in order from a given one, as 4:2:0 planes in BT.709. One process; frames are read as fast
 * as they are asked for.
 */
export class FrameReader {
  private readonly size: number
  private child: ChildProcess | null = null
  private socket: Socket | null = null
  /** Settles when the process has ended, or was never begun. */
  private readonly done: Promise<void>
  private readonly whole: Buffer[] = []
  /** The frame that is being read, and how many of its bytes are there. */
  private filling: Buffer | null = null
  private filled = 0
  private waiting: (() => void) | null = null
  private finished = false
  private failure: Error | null = null
  /** Number of the frame that the next read gives. */
  next: number

  /**
   * @param step frames from one that is given to the next; those between are not handed out
   * @param buffers where frames are read into
   */
  constructor(
    path: string,
    source: PictureSource,
    firstFrame: number,
    private readonly step = 1,
    private readonly buffers: FrameBuffers = ownBuffers(),
  ) {
    this.size = i420Size(source.width!, source.height!)
    this.next = firstFrame
    const { before, chain } = decodingArgs(source, firstFrame, step)
    this.done = this.decode([
      ...words(before, inputArgs(path), '-map', [`0:${source.videoIndex}`]),
      ...words('-an -sn -dn -vf', [chain.join(',')], '-fps_mode passthrough -f rawvideo -pix_fmt yuv420p pipe:1'),
    ])
  }

  /** Runs the decoder to its end; how it failed is told by the read that finds nothing more. */
  private async decode(args: string[]): Promise<void> {
    try {
      const { reader, writer } = await socketPair({
        buffer: () => (this.filling ??= this.buffers.take(this.size)).subarray(this.filled),
        took: (bytes) => this.took(bytes),
      })
      this.socket = reader
      reader.on('error', () => {})
      reader.once('end', () => this.end()).once('close', () => this.end())
      if (this.finished) {
        writer.destroy()
        reader.destroy()
        return
      }
      const child = (this.child = startTool('ffmpeg', args, 'ignore', false, writer))
      // It has its own; this one would keep the reader from learning that it has ended.
      writer.destroy()
      await ended(child, 'ffmpeg', tail(child.stderr!))
    } catch (error) {
      this.failure = error as Error
      this.end()
    }
  }

  private took(bytes: number): boolean {
    this.filled += bytes
    if (this.filled === this.size) {
      this.whole.push(this.filling!)
      this.filling = null
      this.filled = 0
      this.wake()
    }
    return this.whole.length < HELD_FRAMES
  }

  private end(): void {
    this.finished = true
    this.wake()
  }

  private wake(): void {
    this.waiting?.()
    this.waiting = null
  }

  /**
   * Reads the next frame, the planes one after the other. Its buffer is the caller's.
   * @returns `null` when the source has no more frames
   * @throws {ToolError} when decoding failed
   */
  async read(): Promise<Buffer | null> {
    for (;;) {
      const frame = this.whole.shift()
      if (frame) {
        if (this.whole.length < HELD_FRAMES) this.socket!.resume()
        this.next += this.step
        return frame
      }
      if (this.finished) {
        if (this.filled === 0 && this.failure instanceof ToolError) throw this.failure
        return null
      }
      await new Promise<void>((resolve) => (this.waiting = resolve))
    }
  }

  /** {@link read} into `target`. @returns `false` when the source has no more frames */
  async readInto(target: Uint8Array): Promise<boolean> {
    const frame = await this.read()
    if (!frame) return false
    target.set(frame)
    this.buffers.give(frame)
    return true
  }

  /** Ends the process. */
  async close(): Promise<void> {
    this.end()
    this.child?.kill('SIGKILL')
    this.socket?.destroy()
    await this.done
    for (const frame of this.whole.splice(0)) this.buffers.give(frame)
    if (this.filling) this.buffers.give(this.filling)
    this.filling = null
  }
}
