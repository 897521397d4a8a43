import { writeFile } from 'node:fs/promises'
import { z } from 'zod'
import type { Rate } from '@dusk/timeline'
import { removeFile } from './storage'
import { runTool } from './tool'

/** A finished chunk of picture. */
export interface ChunkFile {
  path: string
  frames: number
}

/**
 * Joins chunks and sound to an MP4 without encoding again. Frame times are written anew from frame numbers: the
 * chunks' clock counts 90 000 a second, in which 23.976 and 59.94 are not whole.
 */
export async function joinChunks(
  chunks: readonly ChunkFile[],
  rate: Rate,
  sound: string | null,
  out: string,
  scratch: string,
  signal?: AbortSignal,
): Promise<void> {
  const list = chunks
    .map(
      ({ path, frames }) =>
        `file 'file:${path.replaceAll("'", "'\\''")}'\nduration ${((frames / rate.num) * rate.den).toFixed(6)}`,
    )
    .join('\n')
  await writeFile(scratch, `${list}\n`)
  try {
    await runTool(
      'ffmpeg',
      [
        '-v',
        'error',
        '-nostdin',
        '-y',
        '-f',
        'concat',
        '-safe',
        '0',
        '-protocol_whitelist',
        'file',
        '-i',
        scratch,
        ...(sound ? ['-i', sound] : []),
        '-map',
        '0:v:0',
        ...(sound ? ['-map', '1:a:0'] : []),
        '-c',
        'copy',
        '-bsf:v',
        `setts=time_base=${rate.den}/${rate.num}:pts=PTS:dts=DTS`,
        '-video_track_timescale',
        String(rate.num >= 10_000 ? rate.num : rate.num * 1000),
        '-movflags',
        '+faststart',
        '-f',
        'mp4',
        out,
      ],
      { signal },
    )
  } finally {
    await removeFile(scratch)
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
  format: z.object({ duration: z.string(), size: z.string() }),
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
