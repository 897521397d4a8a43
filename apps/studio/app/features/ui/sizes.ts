import type { Fit } from '@dusk/timeline'

/** Shapes a reel can be made in. */
export const SHAPES = [
  { name: 'Wide', ratio: '16:9', width: 16, height: 9 },
  { name: 'Tall', ratio: '9:16', width: 9, height: 16 },
  { name: 'Square', ratio: '1:1', width: 1, height: 1 },
  { name: 'Portrait', ratio: '4:5', width: 4, height: 5 },
  { name: 'Classic', ratio: '4:3', width: 4, height: 3 },
  { name: 'Cinema', ratio: '21:9', width: 21, height: 9 },
] as const

/** Lengths of the short side that pictures are made with. */
export const SHORT_SIDES = [480, 720, 1080, 1440, 2160] as const

const even = (value: number) => Math.round(value / 2) * 2

/** Size with a given short side in a shape. */
export function sizeFor(
  shape: { width: number; height: number },
  shortSide: number,
): { width: number; height: number } {
  const scale = shortSide / Math.min(shape.width, shape.height)
  return { width: even(shape.width * scale), height: even(shape.height * scale) }
}

/** "3.4 MB". */
export function formatBytes(bytes: number): string {
  const units = ['B', 'KB', 'MB', 'GB', 'TB']
  let value = bytes
  let unit = 0
  while (value >= 1000 && unit < units.length - 1) {
    value /= 1000
    unit++
  }
  return `${value >= 100 || unit === 0 ? Math.round(value) : value.toFixed(1)} ${units[unit]}`
}

/** "about 2 min", "about 20 s". */
export function formatWait(seconds: number): string {
  if (seconds < 1) return 'a moment'
  if (seconds < 90) return `about ${Math.max(1, Math.round(seconds))} s`
  if (seconds < 5400) return `about ${Math.round(seconds / 60)} min`
  return `about ${(seconds / 3600).toFixed(1)} h`
}

/** Ways of fitting a picture of another shape, in words; `reel` follows the reel's own choice. */
export const FITS: { value: Fit | 'reel'; label: string }[] = [
  { value: 'reel', label: 'As the reel does' },
  { value: 'fit', label: 'Whole picture' },
  { value: 'fill', label: 'Fill, edges cut' },
  { value: 'stretch', label: 'Stretch' },
]

/** What people call a container, from the demuxer's list of names for it. */
export function containerName(demuxer: string): string {
  const names: [RegExp, string][] = [
    [/mov|mp4/, 'MP4 or QuickTime'],
    [/matroska|webm/, 'Matroska or WebM'],
    [/mpegts/, 'MPEG transport stream'],
    [/^mpeg/, 'MPEG program stream'],
    [/asf/, 'Windows Media'],
    [/_pipe$|image2/, 'picture file'],
  ]
  return names.find(([pattern]) => pattern.test(demuxer))?.[1] ?? demuxer.toUpperCase()
}

/** What people call a codec, from ffmpeg's name for it. */
export function codecName(codec: string): string {
  const names: Record<string, string> = {
    h264: 'H.264',
    hevc: 'H.265',
    mpeg4: 'MPEG-4',
    mpeg2video: 'MPEG-2',
    mjpeg: 'Motion JPEG',
    prores: 'ProRes',
    dnxhd: 'DNxHD',
    rawvideo: 'uncompressed',
    theora: 'Theora',
    vorbis: 'Vorbis',
    opus: 'Opus',
    mp3: 'MP3',
    aac: 'AAC',
    flac: 'FLAC',
  }
  if (codec.startsWith('pcm_')) return 'uncompressed'
  return names[codec] ?? codec.toUpperCase()
}
