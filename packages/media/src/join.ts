import { writeFile } from 'node:fs/promises'
import { z } from 'zod'
import type { PictureCodec } from '@dusk/interchange'
import type { Rate } from '@dusk/timeline'
import { chapterTimes, wordArgs, type FileWords } from './delivery/fileWords'
import { removeFile } from './storage'
import { runTool } from './tool'

/** A finished chunk of picture. */
export interface ChunkFile {
  path: string
  frames: number
}

/** What a file of film is joined to. */
export interface Joining {
  chunks: readonly ChunkFile[]
  rate: Rate
  /** A file of sound, or `null`. */
  sound: string | null
  /** Where it goes, and what it is by its ending. */
  out: string
  ending: 'mp4' | 'mov' | 'mkv' | 'webm'
  /** A path for the list of chunks; what chapters need lies beside it. */
  scratch: string
  /** What is written into the file about it. */
  words?: FileWords
  /** Four letters that players look for, where the codec has others besides. */
  codec?: PictureCodec
}

const MUXERS = { mp4: 'mp4', mov: 'mov', mkv: 'matroska', webm: 'webm' } as const

/** A list that ffmpeg reads chunks one after another from. */
export function chunkList(chunks: readonly ChunkFile[], rate: Rate): string {
  const lines = chunks.map(
    ({ path, frames }) =>
      `file 'file:${path.replaceAll("'", "'\\''")}'\nduration ${((frames / rate.num) * rate.den).toFixed(6)}`,
  )
  return `${lines.join('\n')}\n`
}
const LIST_ARGS = ['-f', 'concat', '-safe', '0', '-protocol_whitelist', 'file']

/** ffmpeg's arguments that read all of such a list. */
export const listInput = (scratch: string): string[] => [...LIST_ARGS, '-i', scratch]

/** Units a second in which an MP4 counts pictures of a rate: each begins at a whole number of them. */
export const trackTimescale = ({ num }: Rate) => (num >= 10_000 ? num : num * 1000)

/**
 * Joins chunks and sound without encoding again. Frame times are written anew from frame numbers: chunks' own clocks
 * count 90 000 or 1000 a second, in which 23.976 and 59.94 are not whole.
 */
export async function joinChunks(
  { chunks, rate, sound, out, ending, scratch, words, codec }: Joining,
  signal?: AbortSignal,
): Promise<void> {
  await writeFile(scratch, chunkList(chunks, rate))
  const { chapters = [] } = words ?? {}
  const times = `${scratch}.chapters`
  if (chapters.length > 0) await writeFile(times, chapterTimes(chapters))
  const inputs = [...(sound ? ['-i', sound] : []), ...(chapters.length > 0 ? ['-f', 'ffmetadata', '-i', times] : [])]
  const boxed = ending === 'mp4' || ending === 'mov'
  try {
    await runTool(
      'ffmpeg',
      [
        ...['-v', 'error', '-nostdin', '-y', ...listInput(scratch), ...inputs],
        ...['-map', '0:v:0', ...(sound ? ['-map', '1:a:0'] : [])],
        ...['-map_metadata', '-1', '-map_chapters', chapters.length > 0 ? (sound ? '2' : '1') : '-1'],
        ...wordArgs(words ?? {}),
        ...['-c', 'copy', ...(codec === 'h265' && boxed ? ['-tag:v', 'hvc1'] : [])],
        ...['-bsf:v', `setts=time_base=${rate.den}/${rate.num}:pts=PTS:dts=DTS`],
        ...(boxed ? ['-video_track_timescale', String(trackTimescale(rate))] : []),
        ...(boxed ? ['-movflags', '+faststart'] : []),
        ...['-f', MUXERS[ending], out],
      ],
      { signal },
    )
  } finally {
    await Promise.all([removeFile(scratch), removeFile(times)])
  }
}

const checkSchema = z.object({
  streams: z.array(
    z.object({
      codec_type: z.string(),
      codec_name: z.string().optional(),
      width: z.number().optional(),
      height: z.number().optional(),
      nb_read_packets: z.string().optional(),
      avg_frame_rate: z.string().optional(),
      duration: z.string().optional(),
      start_time: z.string().optional(),
      channels: z.number().optional(),
    }),
  ),
  // A single picture has no duration.
  format: z.object({ duration: z.string().default('0'), size: z.string() }),
})

/** What a finished file was found to hold. */
export interface FileReport {
  seconds: number
  bytes: number
  picture: { codec: string; width: number; height: number; frames: number; rate: string; start: number } | null
  sound: { codec: string; channels: number; seconds: number; start: number } | null
}

/** Looks at a finished file: its streams, their lengths, and every frame counted. */
export async function inspectFile(path: string, signal?: AbortSignal): Promise<FileReport> {
  const args = [
    '-v',
    'error',
    '-count_packets',
    '-show_entries',
    'stream=codec_type,codec_name,width,height,nb_read_packets,avg_frame_rate,duration,start_time,channels' +
      ':format=duration,size',
    '-print_format',
    'json',
    '-i',
    `file:${path}`,
  ]
  const parsed = checkSchema.parse(JSON.parse((await runTool('ffprobe', args, { signal })).toString('utf8')))
  const video = parsed.streams.find((s) => s.codec_type === 'video')
  const audio = parsed.streams.find((s) => s.codec_type === 'audio')
  return {
    seconds: Number(parsed.format.duration),
    bytes: Number(parsed.format.size),
    picture: video
      ? {
          codec: video.codec_name ?? '',
          width: video.width ?? 0,
          height: video.height ?? 0,
          frames: Number(video.nb_read_packets ?? 0),
          rate: video.avg_frame_rate ?? '',
          start: Number(video.start_time ?? 0),
        }
      : null,
    sound: audio
      ? {
          codec: audio.codec_name ?? '',
          channels: audio.channels ?? 0,
          seconds: Number(audio.duration ?? 0),
          start: Number(audio.start_time ?? 0),
        }
      : null,
  }
}
