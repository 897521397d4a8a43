import { open } from 'node:fs/promises'
import { z } from 'zod'
import { TICKS_PER_SECOND, type Rate } from '@dusk/timeline'
import { BadMedia } from './badMedia'
import { inputArgs, runTool, ToolError } from './tool'

const streamSchema = z.object({
  index: z.number(),
  id: z.string().optional(),
  codec_type: z.string().optional(),
  codec_name: z.string().optional(),
  width: z.number().optional(),
  height: z.number().optional(),
  pix_fmt: z.string().optional(),
  sample_aspect_ratio: z.string().optional(),
  field_order: z.string().optional(),
  color_range: z.string().optional(),
  color_space: z.string().optional(),
  color_transfer: z.string().optional(),
  color_primaries: z.string().optional(),
  r_frame_rate: z.string().optional(),
  avg_frame_rate: z.string().optional(),
  time_base: z.string().optional(),
  start_time: z.string().optional(),
  duration: z.string().optional(),
  nb_frames: z.string().optional(),
  channels: z.number().optional(),
  sample_rate: z.string().optional(),
  channel_layout: z.string().optional(),
  disposition: z.record(z.string(), z.number()).optional(),
  tags: z.record(z.string(), z.string()).optional(),
  side_data_list: z.array(z.looseObject({ rotation: z.number().optional() })).optional(),
})

const probeSchema = z.object({
  streams: z.array(streamSchema).default([]),
  format: z.object({
    format_name: z.string().default(''),
    duration: z.string().optional(),
    start_time: z.string().optional(),
    size: z.string().optional(),
    tags: z.record(z.string(), z.string()).optional(),
  }),
})

/** One picture stream as the file describes it. */
export interface VideoStream {
  index: number
  /** The number that the container gives its track, or `null`. */
  track: number | null
  codec: string
  width: number
  height: number
  pixelFormat: string
  /** Transparency lies beside the picture, where the decoder does not look: WebM's `AlphaMode`. */
  hiddenAlpha: boolean
  /** Width of a pixel by its height. */
  pixelAspect: number
  /** Turn to show it upright, in degrees clockwise: 0, 90, 180 or 270. */
  rotation: number
  interlaced: boolean
  range: string
  matrix: string
  transfer: string
  /** Nominal and average rate; `null` where the file names none. */
  rate: Rate | null
  averageRate: Rate | null
}

export interface AudioStream {
  index: number
  codec: string
  channels: number
  sampleRate: number
  title: string
}

/** What a file holds. Times in ticks on the file's own clock, which starts at `start`. */
export interface SourceInfo {
  container: string
  start: number
  /** As the file says; may be missing (0) or off. */
  duration: number
  video: VideoStream | null
  audio: AudioStream[]
}

function parseRate(text: string | undefined): Rate | null {
  const match = /^(\d+)\/(\d+)$/.exec(text ?? '')
  if (!match) return null
  const [num, den] = [Number(match[1]), Number(match[2])]
  if (num <= 0 || den <= 0 || num / den > FASTEST || num / den < SLOWEST) return null
  return tidyRate({ num, den })
}

/** Frame rates that files may name; beyond them the times of the frames themselves are the measure. */
const [SLOWEST, FASTEST] = [0.01, 1000]

/** Rates that containers approximate (2997/100, 23976/1000) as the fractions they mean; others in small numbers. */
export function tidyRate(rate: Rate): Rate {
  const value = rate.num / rate.den
  for (const base of [24, 30, 48, 60, 120]) {
    const exact = (base * 1000) / 1001
    if (Math.abs(value - exact) / exact < 2e-5) return { num: base * 1000, den: 1001 }
  }
  if (Math.abs(value - Math.round(value)) < 1e-3) return { num: Math.round(value), den: 1 }
  if (rate.num <= 240_000 && rate.den <= 1001) return rate
  // The nearest fraction whose parts a document can hold.
  const den = Math.max(1, Math.min(1000, Math.floor(240_000 / value)))
  return { num: Math.max(1, Math.round(value * den)), den }
}

function ratio(text: string | undefined): number {
  const match = /^(\d+):(\d+)$/.exec(text ?? '')
  const value = match ? Number(match[1]) / Number(match[2]) : 1
  return value > 0.1 && value < 10 ? value : 1
}

const ticks = (seconds: string | undefined) => Math.round(Number(seconds ?? 0) * TICKS_PER_SECOND) || 0

/**
 * Reads what a file holds.
 * @throws {BadMedia} when it is not media this program can open, saying why and what to do
 */
export async function probe(path: string): Promise<SourceInfo> {
  let text: string
  try {
    const args = ['-v', 'error', '-print_format', 'json', '-show_format', '-show_streams', ...inputArgs(path)]
    text = (await runTool('ffprobe', args, { timeout: 60_000, maxOutput: 16 * 1024 ** 2 })).toString('utf8')
  } catch (error) {
    if (error instanceof ToolError) throw new BadMedia(explain(error.log, await firstBytes(path)))
    throw error
  }
  const parsed = probeSchema.safeParse(JSON.parse(text))
  if (!parsed.success) throw new BadMedia('What this file says about itself makes no sense. It may be damaged.')
  const { format, streams } = parsed.data
  const audio = streams.filter((s) => s.codec_type === 'audio' && s.codec_name && (s.channels ?? 0) > 0)
  // A cover picture inside a song is not footage.
  const video = streams.find((s) => s.codec_type === 'video' && s.codec_name && s.disposition?.attached_pic !== 1)
  if (!video && audio.length === 0) {
    const other = streams.find((s) => s.codec_type === 'video' || s.codec_type === 'audio')
    throw new BadMedia(
      other
        ? 'The picture or sound in this file is of a kind that can’t be decoded here. ' +
            'Convert it to MP4 and add it again.'
        : 'There is neither picture nor sound in this file.',
    )
  }
  if (video && !(video.width && video.height))
    throw new BadMedia(
      'The picture in this file has no size: its beginning is missing. Copy it again from where it came from.',
    )
  const rotation = video?.side_data_list?.find((data) => data.rotation !== undefined)?.rotation ?? 0
  return {
    container: format.format_name,
    start: ticks(format.start_time),
    duration: ticks(format.duration),
    video: video
      ? {
          index: video.index,
          track: Number(video.id) || null,
          codec: video.codec_name!,
          width: video.width!,
          height: video.height!,
          pixelFormat: video.pix_fmt ?? 'yuv420p',
          hiddenAlpha: video.tags?.alpha_mode === '1' || video.tags?.ALPHA_MODE === '1',
          pixelAspect: ratio(video.sample_aspect_ratio),
          rotation: (((Math.round(-rotation / 90) * 90) % 360) + 360) % 360,
          interlaced: ['tt', 'bb', 'tb', 'bt'].includes(video.field_order ?? ''),
          range: video.color_range ?? 'unknown',
          matrix: video.color_space ?? 'unknown',
          transfer: video.color_transfer ?? 'unknown',
          rate: parseRate(video.r_frame_rate),
          averageRate: parseRate(video.avg_frame_rate),
        }
      : null,
    audio: audio.map((s) => ({
      index: s.index,
      codec: s.codec_name!,
      channels: Math.min(s.channels!, 64),
      sampleRate: Number(s.sample_rate ?? 48_000),
      title: soundTitle(s.tags?.title ?? ''),
    })),
  }
}

/** The name that a person gave a stream, as documents can hold it. */
function soundTitle(title: string): string {
  return title.toWellFormed().replaceAll('\0', '').trim().slice(0, 200).toWellFormed()
}

/** Kinds of files that are told by their first bytes and are not read, with what to do about them. */
const NOT_READ: readonly [signature: RegExp, words: string][] = [
  [
    /^(#EXTM3U|\[playlist\]|ffconcat|<\?xml|<MPD|\s*#EXT)/,
    'This file is a list that points to other files, not a video. Add the files it names instead.',
  ],
  [/^.{4}jP {2}/s, 'This is a JPEG 2000 picture, which is not read here. Save it as PNG or JPEG.'],
  [/^P[1-7]\s/, 'This is a PNM picture (.ppm, .pgm), which is not read here. Save it as PNG.'],
  [/^v\/1/, 'This is an OpenEXR picture, which is not read here. Save it as PNG or TIFF.'],
  [/^(SDPX|XPDS)/, 'This is a DPX picture, which is not read here. Save it as PNG or TIFF.'],
  [/^8BPS/, 'This is a layered picture (.psd), which is not read here. Save it as PNG.'],
  [/^%PDF/, 'This is a PDF, not footage. Save its pages as PNG and add those.'],
  [/^\.RMF/, 'This is a RealMedia file, which is not read here. Convert it to MP4.'],
  [/^FORM.{4}(ILBM|PBM )/s, 'This is an IFF picture, which is not read here. Save it as PNG.'],
  [/^PK/, 'This is a ZIP archive, not footage. Unpack it and add the files in it.'],
]

/** TGA has no signature: kinds of colour map and of picture, and a depth, each in its place, have to do. */
function looksLikeTga(head: string): boolean {
  const byte = (at: number) => head.charCodeAt(at)
  return byte(1) <= 1 && [1, 2, 3, 9, 10, 11].includes(byte(2)) && [8, 15, 16, 24, 32].includes(byte(16))
}

async function firstBytes(path: string): Promise<string> {
  const file = await open(path)
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(64), 0, 64, 0)
    return buffer.toString('latin1', 0, bytesRead)
  } finally {
    await file.close()
  }
}

/** ffprobe's complaint as a sentence with a way out, or what a file is by its first bytes. */
function explain(log: string, head: string): string {
  const known = NOT_READ.find(([signature]) => signature.test(head))
  if (known) return known[1]
  if (looksLikeTga(head)) return 'This looks like a TGA picture, which is not read here. Save it as PNG.'

  if (/moov atom not found/.test(log))
    return 'The end of this file is missing, and with it the index of the film. Copy it again from where it came from.'
  if (/Format not on whitelist/i.test(log))
    return 'This kind of file is not read here. Convert it to MP4, WAV or PNG and add that.'
  if (/Invalid data found/.test(log))
    return 'This is not a video, sound or picture file that can be read, or it is damaged from its first bytes.'
  if (/longer than/.test(log)) return 'This file could not be read in a minute. It may be damaged.'
  return `This file can’t be opened: ${log
    .trim()
    .split('\n')
    .at(-1)
    ?.replace(/^\[[^\]]*\]\s*/, '')
    .replace(/file:\S+:?\s*/, '')
    .slice(0, 200)}`
}
