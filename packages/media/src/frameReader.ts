import type { ChildProcess } from 'node:child_process'
import type { FrameTable } from '@dusk/timeline'
import type { Examined } from './ingest'
import { i420Size } from './i420'
import { seekTime } from './frames'
import { ended, inputArgs, startTool, tail, ToolError } from './tool'

/** What a decoder needs to know of a source to find and prepare its frames. */
export interface PictureSource {
  container: string
  /** Start of the container's clock and of the first picture on it, in ticks. */
  start: number
  zero: number
  timed: boolean
  table: FrameTable | null
  width: number | null
  height: number | null
  filters: string[]
  videoIndex: number | null
}

/** The part of an examined source that decoding needs. */
export function pictureSource({ info, timing, transform }: Examined): PictureSource {
  if (!info.video || !timing || !transform) throw new TypeError('This source has no moving picture.')
  return {
    container: info.container,
    start: info.start,
    zero: timing.zero,
    timed: timing.timed,
    table: timing.table,
    width: transform.width,
    height: transform.height,
    filters: transform.filters,
    videoIndex: info.video.index,
  }
}

/** Containers without an index: seeking in them lands anywhere near, so decoding starts well before. */
const LOOSE_SEEKING = /mpeg|mpegts|asf|avi|flv|h264|hevc|gif/

/** Frames that may wait to be read before the decoder has to. */
const HELD_FRAMES = 2

/**
 * Decodes a source's frames in order from a given one, as 4:2:0 planes in BT.709. One process; frames are read as fast
 * as they are asked for.
 */
export class FrameReader {
  private readonly child: ChildProcess
  private readonly done: Promise<void>
  private readonly size: number
  private readonly pieces: Buffer[] = []
  /** Bytes in the pieces. */
  private held = 0
  private waiting: (() => void) | null = null
  private finished = false
  private failure: Error | null = null
  /** Number of the frame that the next read gives. */
  next: number

  constructor(path: string, source: PictureSource, firstFrame: number) {
    this.size = i420Size(source.width!, source.height!)
    this.next = firstFrame
    const at = source.timed ? seekTime(source.table!, source.zero - source.start, firstFrame) : 0
    const counted = source.timed || firstFrame === 0 ? [] : [`select='gte(n,${firstFrame})'`]
    const lead = LOOSE_SEEKING.test(source.container) ? Math.min(at, 4) : 0
    const args = [
      '-v',
      'error',
      '-nostdin',
      ...(at > 0 ? ['-ss', (at - lead).toFixed(6)] : []),
      ...inputArgs(path),
      ...(lead > 0 ? ['-ss', lead.toFixed(6)] : []),
      '-map',
      `0:${source.videoIndex}`,
      '-an',
      '-sn',
      '-dn',
      '-vf',
      [...counted, ...source.filters, 'format=yuv420p'].join(','),
      '-fps_mode',
      'passthrough',
      '-f',
      'rawvideo',
      '-pix_fmt',
      'yuv420p',
      'pipe:1',
    ]
    this.child = startTool('ffmpeg', args, 'ignore')
    const log = tail(this.child.stderr!)
    const wake = () => {
      this.waiting?.()
      this.waiting = null
    }
    // Pieces are kept as they come: joining them to a frame first would copy every frame once more.
    this.child.stdout!.on('data', (piece: Buffer) => {
      this.pieces.push(piece)
      this.held += piece.length
      if (this.held >= this.size * HELD_FRAMES) this.child.stdout!.pause()
      wake()
    })
    this.child.stdout!.on('end', () => {
      this.finished = true
      wake()
    })
    this.done = ended(this.child, 'ffmpeg', log).catch((error: Error) => {
      this.failure = error
      this.finished = true
      wake()
    })
  }

  /**
   * Reads the next frame into `target` (the planes one after the other).
   * @returns `false` when the source has no more frames
   * @throws {ToolError} when decoding failed
   */
  async readInto(target: Uint8Array): Promise<boolean> {
    let filled = 0
    while (filled < this.size) {
      const piece = this.pieces[0]
      if (piece) {
        const part = piece.length <= this.size - filled ? piece : piece.subarray(0, this.size - filled)
        target.set(part, filled)
        filled += part.length
        this.held -= part.length
        if (part === piece) this.pieces.shift()
        else this.pieces[0] = piece.subarray(part.length)
      } else if (this.finished) {
        if (this.failure && filled === 0 && this.failure instanceof ToolError) throw this.failure
        return false
      } else {
        this.child.stdout!.resume()
        await new Promise<void>((resolve) => (this.waiting = resolve))
      }
    }
    if (this.held < this.size) this.child.stdout!.resume()
    this.next++
    return true
  }

  /** Ends the process. */
  async close(): Promise<void> {
    this.child.kill('SIGKILL')
    this.child.stdout!.destroy()
    await this.done
  }
}
