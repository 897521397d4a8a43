import type { ChildProcess } from 'node:child_process'
import { i420Size } from './i420'
import { seekTime } from './frames'
import { ended, inputArgs, startTool, tail, ToolError } from './tool'
import type { Examined } from './ingest'

/** Containers without an index: seeking in them lands anywhere near, so decoding starts well before. */
const LOOSE_SEEKING = /mpeg|mpegts|asf|avi|flv|h264|hevc|gif/

/**
 * Decodes a source's frames in order from a given one, as 4:2:0 planes in BT.709. One process; frames are read as fast
 * as they are asked for.
 */
export class FrameReader {
  private readonly child: ChildProcess
  private readonly done: Promise<void>
  private readonly size: number
  private waiting: (() => void) | null = null
  private finished = false
  private failure: Error | null = null
  /** Number of the frame that the next read gives. */
  next: number

  constructor(path: string, examined: Examined, firstFrame: number) {
    const { info, transform, timing } = examined
    const { width, height } = transform!
    this.size = i420Size(width, height)
    this.next = firstFrame
    const at = timing!.timed ? seekTime(timing!, info.start, firstFrame) : 0
    const counted = timing!.timed || firstFrame === 0 ? [] : [`select='gte(n,${firstFrame})'`]
    const lead = LOOSE_SEEKING.test(info.container) ? Math.min(at, 4) : 0
    const args = [
      '-v', 'error', '-nostdin',
      ...(at > 0 ? ['-ss', (at - lead).toFixed(6)] : []), ...inputArgs(path),
      ...(lead > 0 ? ['-ss', lead.toFixed(6)] : []),
      '-map', `0:${info.video!.index}`, '-an', '-sn', '-dn', '-vf', [...counted, ...transform!.filters, 'format=yuv420p'].join(','),
      '-fps_mode', 'passthrough', '-f', 'rawvideo', '-pix_fmt', 'yuv420p', 'pipe:1',
    ] // prettier-ignore
    this.child = startTool('ffmpeg', args, 'ignore')
    const log = tail(this.child.stderr!)
    const wake = () => {
      this.waiting?.()
      this.waiting = null
    }
    this.child.stdout!.on('readable', wake)
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
    const stream = this.child.stdout!
    let filled = 0
    while (filled < this.size) {
      const missing = this.size - filled
      const part = (stream.read(Math.min(missing, stream.readableLength || missing)) ?? null) as Buffer | null
      if (part) {
        target.set(part, filled)
        filled += part.length
      } else if (this.finished) {
        if (this.failure && filled === 0 && this.failure instanceof ToolError) throw this.failure
        return false
      } else await new Promise<void>((resolve) => (this.waiting = resolve))
    }
    this.next++
    return true
  }

  /** Skips frames by reading them away. */
  async skip(count: number, scratch: Uint8Array): Promise<void> {
    for (let i = 0; i < count; i++) if (!(await this.readInto(scratch))) return
  }

  /** Ends the process. */
  async close(): Promise<void> {
    this.child.kill('SIGKILL')
    this.child.stdout!.destroy()
    await this.done
  }
}
