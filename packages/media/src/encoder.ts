import type { ChildProcess } from 'node:child_process'
import { appendFile, stat } from 'node:fs/promises'
import type { SoundCodec } from '@dusk/interchange'
import { words } from './arguments'
import { hardwareArgs } from './delivery/hardware'
import { filtersOf, pictureArgs, takesRgba, type PictureEncoding, type Quality } from './delivery/pictureArgs'
import { soundArgs } from './delivery/soundArgs'
import { ended, startTool, tail } from './tool'

/** Starts ffmpeg to be fed through its input. `done` settles when it has ended, or rejects with its own words. */
function startEncoder(args: string[]): { child: ChildProcess; done: Promise<void> } {
  const child = startTool('ffmpeg', args, 'pipe')
  child.stdin!.on('error', () => {})
  child.stdout!.resume()
  return { child, done: ended(child, 'ffmpeg', tail(child.stderr!)) }
}

/** Writes to an encoder; settles when the bytes may be used again. */
function feed(child: ChildProcess, done: Promise<void>, bytes: Uint8Array): Promise<void> {
  return new Promise((resolve, reject) => {
    child.stdin!.write(bytes, (error) => {
      if (!error) return resolve()
      // The pipe only says that it broke; the encoder's own words say why.
      done.then(() => reject(error), reject)
    })
  })
}

/** Codecs whose chunks are transport streams; those of others are Matroska files. */
const STREAMED: readonly string[] = ['h264', 'h265']
/** Ending of the files of a codec's chunks. */
export const chunkEndings = ['ts', 'mkv'] as const
/** Which of them a chunk has. */
export const chunkEnding = ({ codec }: Pick<PictureEncoding, 'codec'>) => (STREAMED.includes(codec) ? 'ts' : 'mkv')

/** ffmpeg's arguments for encoding a chunk: before its input, the filters behind it, and after it. */
export function chunkArgs(encoding: PictureEncoding): Record<'before' | 'filters' | 'after', readonly string[]> {
  const hardware = encoding.hardware && hardwareArgs(encoding.hardware, encoding)
  const muxer = chunkEnding(encoding) === 'ts' ? '-muxdelay 0 -muxpreload 0 -f mpegts' : '-f matroska'
  return {
    before: hardware?.before ?? [],
    filters: [...filtersOf(encoding), ...(hardware?.filters ?? [])],
    after: [...(hardware?.encoder ?? pictureArgs(encoding)), ...words(muxer)],
  }
}

/** Encodes frames as they come to a chunk that is closed in itself. */
export class ChunkEncoder {
  private readonly child: ChildProcess
  /** Settles when the file is complete, rejects when the encoder fails. */
  readonly done: Promise<void>
  private failure: Error | null = null
  frames = 0

  constructor(
    private readonly encoding: PictureEncoding,
    private readonly out: string,
  ) {
    const { width, height, rate } = encoding
    const { before, filters, after } = chunkArgs(encoding)
    const args = [
      ...['-v', 'error', '-nostdin', '-y', ...before, '-f', 'rawvideo'],
      ...['-pix_fmt', takesRgba(encoding) ? 'rgba' : 'yuv420p', '-s', `${width}x${height}`],
      ...['-r', `${rate.num}/${rate.den}`, '-i', 'pipe:0'],
      ...(filters.length > 0 ? ['-vf', filters.join(',')] : []),
      ...[...after, out],
    ]
    ;({ child: this.child, done: this.done } = startEncoder(args))
    this.done.catch((error: Error) => (this.failure = error))
  }

  /** Hands a frame over; settles when its bytes may be reused. */
  write(planes: Uint8Array): Promise<void> {
    if (this.failure) return Promise.reject(this.failure)
    this.frames++
    return feed(this.child, this.done, planes)
  }

  /** Says that the last frame was written, and waits for the file. */
  async finish(): Promise<void> {
    this.child.stdin!.end()
    await this.done
    await padChunk(this.encoding, this.out)
  }

  abort(): void {
    this.done.catch(() => {})
    this.child.kill('SIGKILL')
  }
}

/**
 * Adds null packets (ISO/IEC 13818-1 § 2.4.3.2) to a very short transport stream: a chunk of one black frame is a few
 * packets long, too few for a reader to recognise the format by.
 */
export async function padChunk(encoding: PictureEncoding, path: string): Promise<void> {
  if (chunkEnding(encoding) !== 'ts') return
  const wanted = 188 * 160
  if ((await stat(path)).size >= wanted) return
  const packet = Buffer.alloc(188, 0xff)
  packet.set([0x47, 0x1f, 0xff, 0x10])
  await appendFile(path, Buffer.concat(Array.from({ length: 160 }, () => packet)))
}

/** Encodes stereo 48 kHz float samples to a file of their own. */
export class SoundEncoder {
  private readonly child: ChildProcess
  private readonly done: Promise<void>
  /** Settles when the encoder has read what it was given last. */
  private read: Promise<void> = Promise.resolve()

  constructor(out: string, codec: SoundCodec, quality: Quality) {
    const before = words('-v error -nostdin -y -f f32le -ar 48000 -ac 2 -i pipe:0')
    ;({ child: this.child, done: this.done } = startEncoder([...before, ...soundArgs(codec, quality), out]))
    this.done.catch(() => {})
  }

  /**
   * Hands a block over. Settles when the one before it has been read, so that the next is mixed while this one is
   * encoded.
   * @param block interleaved stereo; it must not be changed any more
   */
  async write(block: Float32Array): Promise<void> {
    await this.read
    this.read = feed(this.child, this.done, new Uint8Array(block.buffer, block.byteOffset, block.byteLength))
    this.read.catch(() => {})
  }

  async finish(): Promise<void> {
    await this.read
    this.child.stdin!.end()
    await this.done
  }

  abort(): void {
    this.child.kill('SIGKILL')
  }
}
