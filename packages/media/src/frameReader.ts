import type { ChildProcess } from 'node:child_process'
import type { SourceMetadata } from '@dusk/timeline'
import { words } from './arguments'
import { i420Size } from './i420'
import { seekTime } from './frames'
import { ended, inputArgs, startTool, tail, ToolError } from './tool'

/** What decoding needs to know of a source to find and prepare its frames. */
export type PictureSource = Pick<
  SourceMetadata,
  'container' | 'start' | 'zero' | 'seekable' | 'table' | 'width' | 'height' | 'filters' | 'videoIndex'
>

/** Containers without an index: seeking in them lands anywhere near, so decoding starts well before. */
export const LOOSE_SEEKING = /mpeg|mpegts|asf|avi|flv|h264|hevc|gif/

/** How ffmpeg is told to begin at a frame: arguments before the input, and filters that drop what comes too early. */
export function frameReaderInput(source: PictureSource, frame: number): { before: string[]; filters: string[] } {
  if (frame <= 0) return { before: [], filters: [] }
  if (!source.seekable) return { before: [], filters: [`select='gte(n,${frame})'`] }
  const { at, clock } = seekTime(source.table!, source.zero, source.start, frame)
  const lead = LOOSE_SEEKING.test(source.container) ? 4 : 0
  return {
    // Frames are told by their own time stamps: after a seek, some containers' clocks no longer begin where they did.
    before: words(`-copyts -noaccurate_seek -ss ${Math.max(0, at - lead).toFixed(6)}`),
    filters: [`select='gte(t,${clock.toFixed(6)})'`],
  }
}

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

  /** @param step frames from one that is given to the next; those between are not handed out */
  constructor(
    path: string,
    source: PictureSource,
    firstFrame: number,
    private readonly step = 1,
  ) {
    this.size = i420Size(source.width!, source.height!)
    this.next = firstFrame
    const { before, filters } = frameReaderInput(source, firstFrame)
    const some = step > 1 ? [`select='not(mod(n,${step}))'`] : []
    // Left out as early as can be; what is woven of two fields needs its neighbours.
    const woven = source.filters.some((filter) => filter.includes('dif'))
    const chain = [
      ...filters,
      ...(woven ? [...source.filters, ...some] : [...some, ...source.filters]),
      'format=yuv420p',
    ].join(',')
    const args = [
      ...words('-v error -nostdin -max_error_rate 1', before, inputArgs(path), '-map', [`0:${source.videoIndex}`]),
      ...words('-an -sn -dn -vf', [chain], '-fps_mode passthrough -f rawvideo -pix_fmt yuv420p pipe:1'),
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
    this.next += this.step
    return true
  }

  /** Ends the process. */
  async close(): Promise<void> {
    this.child.kill('SIGKILL')
    this.child.stdout!.destroy()
    await this.done
  }
}
