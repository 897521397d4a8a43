import { framesPerSecond, type Rate } from '@dusk/timeline'
import type { EncoderSpeed, HardwareId, PictureCodec } from '@dusk/interchange'

export type { EncoderSpeed }

/** How good a picture is, in words; each codec has its own scale for it. */
export type Quality = 'draft' | 'good' | 'best'

/** How the pictures of a chunk are encoded. */
export interface PictureEncoding {
  /** Size of the pictures that come in. */
  width: number
  height: number
  rate: Rate
  codec: PictureCodec
  quality: Quality
  /** Bits a second that are aimed at, instead of a quality; for codecs of films. */
  bitrate?: number
  /** How long the encoder looks for ways to save bits; `even` where nothing is said. */
  speed?: EncoderSpeed
  /** As good as unchanged: what is encoded once more, to a size. */
  master?: boolean
  /** What is seen through the reel stays so: pictures come in as straight RGBA. */
  alpha?: boolean
  /** An encoder in a graphics chip, instead of one that runs on processors. */
  hardware?: HardwareId
  /** Identifier of the parameter sets, where pictures with others come beside; H.264 alone. */
  parameterSet?: number
  /** Size of the file's pictures, where it has another shape: what comes in lies in its middle. */
  frame?: { width: number; height: number; background: string }
}

/** Tags of BT.709 in limited range with chroma beside the left column, for pictures that already are so. */
export const BT709_TAGS: readonly string[] = [
  ...['-colorspace', 'bt709', '-color_primaries', 'bt709', '-color_trc', 'bt709', '-color_range', 'tv'],
  ...['-chroma_sample_location', 'left'],
]

/** ffmpeg's arguments for 8-bit 4:2:0 pictures in BT.709, limited range, tagged as such. */
export const BT709_ARGS: readonly string[] = ['-pix_fmt', 'yuv420p', ...BT709_TAGS]

/** Threads are pinned: another number gives other bytes, and chunks from several machines are joined. */
const THREADS = 3

/** A number for each quality: constant rate factors, which count down as quality goes up. */
type Scale = Record<Quality, number>
const X264_CRF: Scale = { draft: 26, good: 20, best: 16 }
const X265_CRF: Scale = { draft: 29, good: 23, best: 18 }
const AV1_CRF: Scale = { draft: 46, good: 34, best: 24 }
const VP9_CRF: Scale = { draft: 42, good: 32, best: 22 }
/** Presets of x264 and x265, from the quickest on, and where in them each quality stands. */
const PRESETS = ['ultrafast', 'superfast', 'veryfast', 'faster', 'fast', 'medium', 'slow', 'slower'] as const
const PRESET: Scale = { draft: 0, good: 2, best: 4 }
const AV1_PRESET: Scale = { draft: 12, good: 10, best: 8 }
const VP9_SPEED: Scale = { draft: 8, good: 5, best: 3 }
/** How far a speed is from the one a quality has by itself: along the presets, and in the other two's numbers. */
const PRESETS_ON: Record<EncoderSpeed, number> = { quick: -1, even: 0, thorough: 3 }
const NUMBERS_ON: Record<EncoderSpeed, number> = { quick: 2, even: 0, thorough: -2 }
const between = (value: number, least: number, most: number) => Math.min(Math.max(value, least), most)
const presetOf = (quality: Quality, speed: EncoderSpeed) =>
  PRESETS[between(PRESET[quality] + PRESETS_ON[speed], 0, PRESETS.length - 1)]!
/** x264's constant rate factor at which nobody sees a difference. */
const MASTER_CRF = 5
/** ProRes profiles: proxy, standard, high quality; with transparency 4444. */
const PRORES_PROFILE: Scale = { draft: 0, good: 2, best: 3 }
const PRORES_4444 = 4

/** x264's settings, as they are measured against: constant rate factor (0 lossless, 51 worst) and preset. */
export interface X264Settings {
  rate: Rate
  crf: number
  preset: 'ultrafast' | 'veryfast' | 'fast' | 'medium' | 'slow'
}

/** x264 arguments of a chunk: no frame refers beyond it. */
export function x264Args({ crf, preset, rate }: X264Settings): string[] {
  return [...x264(preset, rate), '-crf', String(crf), ...BT709_ARGS]
}

/** Frames between those that stand by themselves: five seconds. */
export const groupOf = (rate: Rate) => Math.round(framesPerSecond(rate)) * 5

function x264(preset: string, rate: Rate): string[] {
  return [
    ...['-c:v', 'libx264', '-preset', preset, '-profile:v', 'high', '-threads', String(THREADS)],
    ...['-g', String(groupOf(rate)), '-flags', '+cgop'],
  ]
}

/** Half as much again at the busiest, over two seconds. */
const rateArgs = (bitrate: number) => [
  ...['-b:v', String(bitrate), '-maxrate', String(Math.round(bitrate * 1.5)), '-bufsize', String(bitrate * 2)],
]

/**
 * ffmpeg's arguments for a codec of films. Whatever is joined later is closed in itself, and the same frames give the
 * same bytes on every machine.
 */
export function pictureArgs({
  codec,
  quality,
  bitrate,
  alpha,
  rate,
  speed = 'even',
  master,
  parameterSet,
}: PictureEncoding): string[] {
  if (master) return x264Args({ crf: MASTER_CRF, preset: 'ultrafast', rate })
  const group = ['-g', String(groupOf(rate))]
  const worth = (crf: Scale) => (bitrate ? rateArgs(bitrate) : ['-crf', String(crf[quality])])
  switch (codec) {
    case 'h264':
      return [
        ...x264(presetOf(quality, speed), rate),
        ...(parameterSet ? ['-x264-params', `sps-id=${parameterSet}`] : []),
        ...worth(X264_CRF),
        ...BT709_ARGS,
      ]
    case 'h265': {
      const own = `log-level=error:pools=${THREADS}:frame-threads=1:open-gop=0`
      return [
        ...['-c:v', 'libx265', '-preset', presetOf(quality, speed), '-x265-params', own, '-tag:v', 'hvc1'],
        ...[...worth(X265_CRF), ...group, ...BT709_ARGS],
      ]
    }
    case 'av1': {
      const aim = bitrate ? ['-b:v', String(bitrate)] : ['-crf', String(AV1_CRF[quality])]
      const own = bitrate ? 'rc=1:lp=2' : 'lp=2'
      return [
        ...['-c:v', 'libsvtav1', '-preset', String(between(AV1_PRESET[quality] + NUMBERS_ON[speed], 4, 12))],
        ...['-svtav1-params', own],
        ...[...aim, ...group, ...BT709_ARGS],
      ]
    }
    case 'vp9': {
      const aim = bitrate ? rateArgs(bitrate) : ['-b:v', '0', '-crf', String(VP9_CRF[quality])]
      return [
        ...['-c:v', 'libvpx-vp9', '-deadline', 'good', '-row-mt', '1', '-cpu-used', vp9Speed(quality, speed)],
        ...['-threads', String(THREADS), '-auto-alt-ref', alpha ? '0' : '1', ...aim, ...group],
        ...(alpha ? ['-pix_fmt', 'yuva420p', ...BT709_TAGS] : BT709_ARGS),
      ]
    }
    case 'prores':
      return [
        ...['-c:v', 'prores_ks', '-profile:v', String(alpha ? PRORES_4444 : PRORES_PROFILE[quality])],
        ...['-vendor', 'apl0', '-pix_fmt', alpha ? 'yuva444p10le' : 'yuv422p10le', ...BT709_TAGS],
      ]
    default:
      // Pictures by themselves and loops are made from a copy without any loss.
      return ['-c:v', 'ffv1', '-level', '3', '-g', '1', '-slices', '4', '-threads', String(THREADS)]
  }
}

const vp9Speed = (quality: Quality, speed: EncoderSpeed) =>
  String(between(VP9_SPEED[quality] + NUMBERS_ON[speed], 1, 8))

/** ffmpeg's arguments for one of two passes over a whole film, after which it has a bitrate in the mean. */
export function twoPassArgs({
  codec,
  quality,
  speed = 'even',
  rate,
  bitrate,
  pass,
  statistics,
}: Pick<PictureEncoding, 'codec' | 'quality' | 'speed' | 'rate'> & {
  bitrate: number
  pass: 1 | 2
  /** Path of what the first pass finds out. */
  statistics: string
}): string[] {
  const passes = ['-pass', String(pass), '-passlogfile', statistics]
  const aim = ['-b:v', String(Math.round(bitrate))]
  const group = ['-g', String(groupOf(rate))]
  switch (codec) {
    case 'h264':
      return [...x264(presetOf(quality, speed), rate), ...aim, ...passes, ...BT709_ARGS]
    case 'h265': {
      const own = `log-level=error:pools=${THREADS}:frame-threads=1:pass=${pass}:stats=${statistics}`
      return [
        ...['-c:v', 'libx265', '-preset', presetOf(quality, speed), '-x265-params', own],
        ...[...aim, ...group, ...BT709_ARGS],
      ]
    }
    case 'vp9':
      return [
        ...['-c:v', 'libvpx-vp9', '-deadline', 'good', '-row-mt', '1', '-threads', String(THREADS)],
        ...['-cpu-used', vp9Speed(quality, pass === 1 ? 'quick' : speed), ...aim, ...passes, ...group, ...BT709_ARGS],
      ]
    default:
      throw new Error(`Films of ${codec} are not encoded in two passes.`)
  }
}

/** Whether chunks of a codec are handed over as RGBA, and not as the planes that most are encoded from. */
export const takesRgba = ({ codec, alpha }: Pick<PictureEncoding, 'codec' | 'alpha'>) =>
  alpha === true || ['gif', 'webp', 'png', 'jpeg'].includes(codec)

/** Filters from what comes in to what is encoded: shape, and from RGBA to BT.709 with rounding done well. */
export function filtersOf(encoding: PictureEncoding): string[] {
  const { frame, width, height, alpha } = encoding
  const filters: string[] = []
  if (frame) {
    const [cutW, cutH] = [Math.min(width, frame.width), Math.min(height, frame.height)]
    if (cutW < width || cutH < height) filters.push(`crop=${cutW}:${cutH}`)
    if (cutW < frame.width || cutH < frame.height)
      filters.push(
        `pad=${frame.width}:${frame.height}:(ow-iw)/2:(oh-ih)/2:color=${alpha ? 'black@0' : frame.background}`,
      )
  }
  if (takesRgba(encoding) && ['vp9', 'prores'].includes(encoding.codec))
    filters.push('scale=out_color_matrix=bt709:out_range=tv:flags=accurate_rnd+full_chroma_int+bicubic')
  // This encoder writes what frames say of themselves, and those that come in raw say nothing.
  if (encoding.codec === 'prores')
    filters.push('setparams=colorspace=bt709:color_primaries=bt709:color_trc=bt709:range=tv')
  return filters
}
