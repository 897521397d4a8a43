import { spawn, type ChildProcessByStdio, type ChildProcess } from 'node:child_process'
import type { Socket } from 'node:net'
import type { Readable, Writable } from 'node:stream'
import { StandBack } from './standBack'

/** Address space a decoder or encoder may take. Enough for 8K; a file made to exhaust memory ends its own process. */
const MEMORY_LIMIT = 12 * 1024 ** 3

/** An outside program that failed, with the end of what it said. */
export class ToolError extends Error {
  constructor(
    readonly tool: string,
    readonly code: number | null,
    readonly log: string,
  ) {
    super(`${tool} failed${code === null ? '' : ` with code ${code}`}: ${lastLine(log)}`)
    this.name = 'ToolError'
  }
}

function lastLine(log: string): string {
  return log.trim().split('\n').at(-1)?.slice(0, 300) ?? ''
}

/** How much what nobody waits for stands back: a quarter of a processor is left to it where others want all of it. */
const BACKGROUND_NICENESS = '5'

/** Whether somebody waits for something else just now. */
let isWaiting: () => Promise<boolean> = () => Promise.resolve(false)
const standing = new StandBack(() => isWaiting())

/** Says how this process learns that somebody waits: what runs in the background stands still then. */
export function standBackWhen(waiting: () => Promise<boolean>): void {
  isWaiting = waiting
}

/**
 * Starts ffmpeg or ffprobe with a memory limit. It is killed when this process dies, however it dies.
 * @param background it stands back behind what somebody waits for
 * @param stdout a socket that its output goes to instead of a stream of the process; its own end of it
 */
export function startTool(
  tool: 'ffmpeg' | 'ffprobe',
  args: readonly string[],
  stdin: 'pipe' | 'ignore',
  background = false,
  stdout: 'pipe' | Socket = 'pipe',
): ChildProcess {
  const behind = background ? ['nice', '-n', BACKGROUND_NICENESS] : []
  const guard = [`--as=${MEMORY_LIMIT}`, ...behind, 'setpriv', '--pdeathsig', 'KILL', tool]
  const child = spawn('prlimit', [...guard, ...args], { stdio: [stdin, stdout, 'pipe'] })
  if (background) standing.add(child)
  return child
}

/** Collects the end of a stream of text. */
export function tail(stream: Readable, limit = 16_384, onLine?: (line: string) => void): () => string {
  let text = ''
  let partial = ''
  stream.setEncoding('utf8')
  stream.on('data', (part: string) => {
    text = (text + part).slice(-limit)
    if (!onLine) return
    const lines = (partial + part).split(/[\r\n]/)
    partial = lines.pop() ?? ''
    lines.forEach(onLine)
  })
  return () => text
}

/** Settles when a process has ended; rejects with {@link ToolError} unless it ended well. */
export function ended(child: ChildProcess, tool: string, log: () => string): Promise<void> {
  return new Promise((resolve, reject) => {
    child.once('error', (error) => reject(new ToolError(tool, null, error.message)))
    child.once('close', (code) => (code === 0 ? resolve() : reject(new ToolError(tool, code, log()))))
  })
}

export interface RunOptions {
  signal?: AbortSignal
  /** Longest time it may take, in milliseconds. */
  timeout?: number
  /** Called with each line of its error output. */
  onLine?: (line: string) => void
  /** Called with each piece of its output instead of collecting it; the next comes when this has settled. */
  onData?: (data: Buffer) => Promise<void>
  /** Most bytes of output that are collected. */
  maxOutput?: number
  /** It stands back behind what somebody waits for. */
  background?: boolean
}

/** Runs ffmpeg or ffprobe to its end and returns what it wrote. */
export async function runTool(
  tool: 'ffmpeg' | 'ffprobe',
  args: readonly string[],
  options: RunOptions = {},
): Promise<Buffer> {
  options.signal?.throwIfAborted()
  const child = startTool(tool, args, 'ignore', options.background) as ChildProcessByStdio<null, Readable, Readable>
  const log = tail(child.stderr, 16_384, options.onLine)
  const parts: Buffer[] = []
  let size = 0
  const limit = options.maxOutput ?? 512 * 1024 ** 2
  const reading = (async () => {
    for await (const data of child.stdout as AsyncIterable<Buffer>) {
      if (options.onData) await options.onData(data)
      else {
        size += data.length
        if (size > limit) return void child.kill('SIGKILL')
        parts.push(data)
      }
    }
  })()
  // What can't be taken on ends the program too.
  reading.catch(() => child.kill('SIGKILL'))
  const stop = () => child.kill('SIGKILL')
  options.signal?.addEventListener('abort', stop)
  let late = false
  const timer = options.timeout
    ? setTimeout(() => {
        late = true
        stop()
      }, options.timeout)
    : undefined
  try {
    const [read, done] = await Promise.allSettled([reading, ended(child, tool, log)])
    if (read.status === 'rejected') throw read.reason
    if (done.status === 'rejected') throw done.reason
  } catch (error) {
    options.signal?.throwIfAborted()
    if (late) throw new ToolError(tool, null, `it took longer than ${options.timeout! / 1000} s`)
    throw error
  } finally {
    clearTimeout(timer)
    options.signal?.removeEventListener('abort', stop)
  }
  return Buffer.concat(parts)
}

/**
 * Demuxers that uploads may be read with: containers of pictures and sound, no playlists and nothing that names
 * other files.
 */
export const DEMUXERS = [
  'mov',
  'mp4',
  'm4a',
  '3gp',
  '3g2',
  'mj2',
  'matroska',
  'webm',
  'avi',
  'asf',
  'mpeg',
  'mpegts',
  'mpegvideo',
  'flv',
  'dv',
  'mxf',
  'gif',
  'wav',
  'w64',
  'mp3',
  'flac',
  'ogg',
  'aac',
  'ac3',
  'aiff',
  'caf',
  'amr',
  'au',
  'voc',
  'eac3',
  'dts',
  'dtshd',
  'truehd',
  'tta',
  'wv',
  'ape',
  'tak',
  'mpc',
  'mpc8',
  'yuv4mpegpipe',
  'ivf',
  'nut',
  'png_pipe',
  'jpeg_pipe',
  'webp_pipe',
  'tiff_pipe',
  'bmp_pipe',
  'apng',
  'h264',
  'hevc',
]

/** Arguments that open an uploaded file safely: only this file, only known containers. */
export function inputArgs(path: string): string[] {
  return ['-protocol_whitelist', 'file,pipe', '-format_whitelist', DEMUXERS.join(','), '-i', `file:${path}`]
}

export type { Writable }
