import type { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { words } from './arguments'
import { ended, startTool, tail } from './tool'

/** Files that a sound can be saved as: what ffmpeg is told, and what the file is. */
export const SOUND_FILES = {
  flac: { type: 'audio/flac', codec: '-c:a flac -compression_level 8 -sample_fmt s32 -bits_per_raw_sample 24 -f flac' },
  // The best of its variable qualities.
  mp3: { type: 'audio/mpeg', codec: '-c:a libmp3lame -q:a 0 -f mp3' },
} as const
export type SoundFileKind = keyof typeof SOUND_FILES

/**
 * Writes a WAV file that comes piece by piece as a FLAC or MP3 file.
 * @throws {ToolError} when it is no WAV file
 */
export async function encodeSound(
  input: Readable,
  kind: SoundFileKind,
  out: string,
  options: { signal?: AbortSignal } = {},
): Promise<void> {
  options.signal?.throwIfAborted()
  // Only what it is said to be: nothing else is looked for in what somebody sends.
  const args = words('-v error -nostdin -y -f wav -i pipe:0 -map 0:a:0 -map_metadata -1', SOUND_FILES[kind].codec, [
    out,
  ])
  const child = startTool('ffmpeg', args, 'pipe')
  const log = tail(child.stderr!)
  child.stdout!.resume()
  const stop = () => child.kill('SIGKILL')
  options.signal?.addEventListener('abort', stop)
  const done = ended(child, 'ffmpeg', log)
  const sent = pipeline(input, child.stdin!)
  // One that has ended takes no more: its own words say why.
  sent.catch(stop)
  try {
    const [encoded, read] = await Promise.allSettled([done, sent])
    options.signal?.throwIfAborted()
    if (encoded.status === 'rejected') throw encoded.reason
    if (read.status === 'rejected') throw read.reason
  } finally {
    options.signal?.removeEventListener('abort', stop)
  }
}
