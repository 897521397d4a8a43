import type { VideoStream } from './probe'

/**
 * How a source's frames become upright, square-pixelled, progressive 4:2:0 in BT.709, limited range. The same filters
 * stand before the proxy and before the render.
 */
export interface InputTransform {
  /** Size of the frames that come out. */
  width: number
  height: number
  /** ffmpeg filters in order; empty when frames are taken as they are. */
  filters: string[]
  /** What was done to the picture that the person may want to know. */
  notes: string[]
}

const LARGEST = 8192

/**
 * Y′CbCr matrix in ffmpeg's words. Untagged footage: BT.601 at standard definition, as DVDs and old cameras wrote
 * it.
 */
function inputMatrix(video: VideoStream): string {
  if (/^(bt470bg|smpte170m|bt601)$/.test(video.matrix)) return 'bt601'
  if (/^bt2020/.test(video.matrix)) return 'bt2020'
  if (video.matrix === 'bt709') return 'bt709'
  if (video.matrix === 'fcc' || video.matrix === 'smpte240m') return video.matrix
  return video.height <= 576 && video.width <= 1024 ? 'bt601' : 'bt709'
}

/** Whether the samples are R′G′B′ or grey rather than Y′CbCr. */
function isRgb(format: string): boolean {
  return /^(rgb|bgr|gbr|argb|abgr|rgba|bgra|pal8|0rgb|rgb0|0bgr|bgr0|gbrp)/.test(format)
}

/** The transform for a moving picture. */
export function inputTransform(video: VideoStream): InputTransform {
  const filters: string[] = []
  const notes: string[] = []
  const sideways = video.rotation === 90 || video.rotation === 270
  let [width, height] = sideways ? [video.height, video.width] : [video.width, video.height]
  const aspect = sideways ? 1 / video.pixelAspect : video.pixelAspect
  if (video.rotation !== 0) notes.push(`Turned upright (${video.rotation}°).`)

  if (video.interlaced) {
    filters.push('bwdif=mode=send_frame')
    notes.push('Interlaced footage: each pair of fields became one whole frame.')
  }
  if (video.transfer === 'smpte2084' || video.transfer === 'arib-std-b67') {
    filters.push(
      'zscale=t=linear:npl=203',
      'format=gbrpf32le',
      'zscale=p=bt709',
      'tonemap=tonemap=hable:desat=0',
      'zscale=t=bt709:m=bt709:r=tv',
    )
    notes.push(`High dynamic range (${video.transfer === 'smpte2084' ? 'PQ' : 'HLG'}) was brought to standard range.`)
  } else if (!isRgb(video.pixelFormat) && !/^gray/.test(video.pixelFormat)) {
    const matrix = inputMatrix(video)
    const full = video.range === 'pc' || /^yuvj/.test(video.pixelFormat)
    if (matrix !== 'bt709' || full)
      filters.push(
        `scale=in_color_matrix=${matrix}:in_range=${full ? 'full' : 'limited'}:` +
          'out_color_matrix=bt709:out_range=limited:flags=bicubic+accurate_rnd',
      )
  } else filters.push('scale=out_color_matrix=bt709:out_range=limited:flags=bicubic+accurate_rnd')

  const [w, h] = [width, height]
  if (Math.abs(aspect - 1) > 0.002) {
    if (aspect > 1) width = Math.round(width * aspect)
    else height = Math.round(height / aspect)
    if (w !== width || h !== height) notes.push(`Pixels were not square: ${w} × ${h} became ${width} × ${height}.`)
  }
  const shrink = Math.min(1, LARGEST / width, LARGEST / height)
  if (shrink < 1) {
    width = Math.floor(width * shrink)
    height = Math.floor(height * shrink)
    notes.push(`Larger than can be worked on: brought down to ${width} × ${height}.`)
  }
  if (width !== w || height !== h) filters.push(`scale=${width}:${height}:flags=bicubic`, 'setsar=1')
  if (/p(10|12|14|16)(le|be)?$/.test(video.pixelFormat)) notes.push('More than 8 bits a colour: worked on in 8.')
  if (video.hiddenAlpha || /^(yuva|rgba|bgra|argb|abgr|gbrap|pal8)/.test(video.pixelFormat))
    notes.push('Transparency of moving footage is not kept; it lies on black.')
  return { width, height, filters, notes }
}

/** Size of a proxy: at most 960 on the long side, even numbers, never larger than the source. */
export function proxySize(width: number, height: number, longest = 960): { width: number; height: number } {
  const scale = Math.min(1, longest / Math.max(width, height))
  const even = (value: number) => Math.max(2, Math.round((value * scale) / 2) * 2)
  return { width: even(width), height: even(height) }
}
