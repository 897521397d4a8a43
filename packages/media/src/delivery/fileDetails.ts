import { z } from 'zod'
import { runTool } from '../tool'

/** What a finished file holds, and how it goes along its length. */
export interface FileDetails {
  /** `codec` as ffmpeg names it. */
  streams: { kind: 'picture' | 'sound' | 'words'; codec: string; words: string }[]
  /** Bits in each second of all streams together. */
  bitrate: number[]
  /** Short-term loudness (EBU R128, over three seconds) at each second, in LUFS; `null` without sound. */
  loudness: (number | null)[] | null
}

const streamsSchema = z.object({
  streams: z.array(
    z.object({
      codec_type: z.string(),
      codec_name: z.string().optional(),
      profile: z.string().optional(),
      width: z.number().optional(),
      height: z.number().optional(),
      avg_frame_rate: z.string().optional(),
      pix_fmt: z.string().optional(),
      color_space: z.string().optional(),
      color_range: z.string().optional(),
      sample_rate: z.string().optional(),
      channel_layout: z.string().optional(),
      channels: z.number().optional(),
    }),
  ),
})

const KINDS: Record<string, FileDetails['streams'][number]['kind']> = { video: 'picture', audio: 'sound' }

/** Colour matrices and ranges as ffprobe names them, and as people do. */
const SPACES: Record<string, string> = { bt709: 'BT.709', smpte170m: 'BT.601', bt470bg: 'BT.601', bt2020nc: 'BT.2020' }
const RANGES: Record<string, string> = { tv: 'limited range', pc: 'full range' }

/** A rate as ffprobe writes it, such as `30000/1001`, in frames a second. */
function frameRate(text = ''): string {
  const [num = 0, den = 1] = text.split('/').map(Number)
  return den > 0 && num > 0 ? `${Number((num / den).toFixed(3))} frames/s` : ''
}

async function streamsOf(path: string, signal?: AbortSignal): Promise<FileDetails['streams']> {
  const args = ['-v', 'error', '-show_streams', '-of', 'json', `file:${path}`]
  const { streams } = streamsSchema.parse(JSON.parse((await runTool('ffprobe', args, { signal })).toString()))
  return streams.map((stream) => {
    const size = stream.width ? `${stream.width} × ${stream.height}` : ''
    const layout = stream.channel_layout ?? (stream.channels ? `${stream.channels} channels` : '')
    const sampled = stream.sample_rate ? `${Number(stream.sample_rate) / 1000} kHz` : ''
    const colours = [stream.pix_fmt, SPACES[stream.color_space ?? ''], RANGES[stream.color_range ?? '']]
    const words =
      stream.codec_type === 'video'
        ? [size, frameRate(stream.avg_frame_rate), stream.profile, ...colours]
        : [sampled, layout, stream.profile]
    return {
      kind: KINDS[stream.codec_type] ?? 'words',
      codec: stream.codec_name ?? 'unknown',
      words: words.filter(Boolean).join(', '),
    }
  })
}

/** Bits of all packets, by the second in which they are shown. */
async function bitrateOf(path: string, signal?: AbortSignal): Promise<number[]> {
  const args = ['-v', 'error', '-show_entries', 'packet=pts_time,size', '-of', 'csv=p=0', `file:${path}`]
  const seconds: number[] = []
  for (const line of (await runTool('ffprobe', args, { signal })).toString().split('\n')) {
    const [time, size] = line.split(',')
    const second = Math.max(0, Math.floor(Number(time)))
    if (!size || !Number.isFinite(second)) continue
    seconds[second] = (seconds[second] ?? 0) + Number(size) * 8
  }
  return Array.from(seconds, (bits) => bits ?? 0)
}

/** Below this ffmpeg's meter says that it has heard nothing yet. */
const SILENT = -100

/** Short-term loudness at each second, as ffmpeg's meter of EBU R128 says it. */
async function loudnessOf(path: string, signal?: AbortSignal): Promise<(number | null)[]> {
  const meter = 'ebur128=metadata=1,ametadata=mode=print:key=lavfi.r128.S:file=-'
  const args = ['-v', 'error', '-nostdin', '-i', `file:${path}`, '-vn', '-af', meter, '-f', 'null', '-']
  const seconds: (number | null)[] = []
  let time = 0
  for (const line of (await runTool('ffmpeg', args, { signal })).toString().split('\n')) {
    time = Number(/pts_time:([\d.]+)/.exec(line)?.[1] ?? time)
    const value = /lavfi\.r128\.S=(-?[\d.]+|nan|-inf)/.exec(line)?.[1]
    if (value === undefined) continue
    const loudness = Number(value)
    seconds[Math.floor(time)] = Number.isFinite(loudness) && loudness > SILENT ? loudness : null
  }
  return Array.from(seconds, (value) => value ?? null)
}

/** Looks into a finished file. @throws {ToolError} when it can't be read */
export async function fileDetails(path: string, signal?: AbortSignal): Promise<FileDetails> {
  const streams = await streamsOf(path, signal)
  const heard = streams.some(({ kind }) => kind === 'sound')
  const [bitrate, loudness] = await Promise.all([bitrateOf(path, signal), heard ? loudnessOf(path, signal) : null])
  return { streams, bitrate, loudness }
}
