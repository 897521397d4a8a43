/** A file as people have it: how ffmpeg makes one, and what reading it in must find. */
export interface Format {
  name: string
  /** What is special about it, in words for the table. */
  words: string
  /** Arguments of ffmpeg between its inputs and the file. */
  args: string
  /**
   * `picture`: two seconds of moving picture; `both`: with stereo sound; `sound`: sound alone; `still`: one picture.
   */
  input: 'both' | 'picture' | 'sound' | 'still' | 'surround'
  expect: {
    kind: 'video' | 'sound' | 'still'
    width?: number
    height?: number
    channels?: number
    alpha?: boolean
    variable?: boolean
    /** Seconds; two where nothing is said. */
    seconds?: number
    /** A part of a note that the person is given. */
    note?: string
  }
}

const wide = { kind: 'video' as const, width: 320, height: 180, channels: 2 }
const silent = { kind: 'video' as const, width: 320, height: 180 }
const still = { kind: 'still' as const, width: 320, height: 180 }
const sound = { kind: 'sound' as const, channels: 2 }
const h264 = '-c:v libx264 -preset ultrafast -pix_fmt yuv420p -c:a aac'

/** Everything in common use that Debian's ffmpeg can write. */
export const FORMATS: Format[] = [
  { name: 'camera.mp4', words: 'H.264, AAC', args: h264, input: 'both', expect: wide },
  {
    name: 'phone.mov',
    words: 'H.265, AAC',
    args: '-c:v libx265 -preset ultrafast -x265-params log-level=none -pix_fmt yuv420p -tag:v hvc1 -c:a aac',
    input: 'both',
    expect: wide,
  },
  {
    name: 'edit.mov',
    words: 'ProRes 422, PCM',
    args: '-c:v prores_ks -profile:v 1 -c:a pcm_s16le',
    input: 'both',
    expect: wide,
  },
  {
    name: 'film.mkv',
    words: 'H.264, FLAC',
    args: '-c:v libx264 -preset ultrafast -pix_fmt yuv420p -c:a flac',
    input: 'both',
    expect: wide,
  },
  {
    name: 'web.webm',
    words: 'VP9, Opus',
    args: '-c:v libvpx-vp9 -deadline realtime -cpu-used 8 -c:a libopus',
    input: 'both',
    expect: wide,
  },
  { name: 'new.mp4', words: 'AV1, Opus', args: '-c:v libsvtav1 -preset 12 -c:a libopus', input: 'both', expect: wide },
  { name: 'old.avi', words: 'MPEG-4 part 2, MP3', args: '-c:v mpeg4 -c:a libmp3lame', input: 'both', expect: wide },
  { name: 'office.wmv', words: 'Windows Media', args: '-c:v wmv2 -c:a wmav2', input: 'both', expect: wide },
  { name: 'disc.mpg', words: 'MPEG-2, MP2', args: '-c:v mpeg2video -c:a mp2 -f mpeg', input: 'both', expect: wide },
  { name: 'recorder.ts', words: 'MPEG-TS, H.264', args: `${h264} -f mpegts`, input: 'both', expect: wide },
  {
    name: 'short-gop.ts',
    words: 'MPEG-TS, H.264 with B-frames and many keyframes',
    args: '-c:v libx264 -preset fast -bf 2 -g 12 -pix_fmt yuv420p -c:a aac -f mpegts',
    input: 'both',
    expect: wide,
  },
  {
    name: 'camcorder.m2ts',
    words: 'AVCHD stream, H.264, AC-3',
    args: '-c:v libx264 -g 12 -pix_fmt yuv420p -c:a ac3 -f mpegts -mpegts_m2ts_mode 1',
    input: 'both',
    expect: wide,
  },
  { name: 'stream.flv', words: 'Flash video, H.264', args: `${h264} -g 12`, input: 'both', expect: wide },
  {
    name: 'early.flv',
    words: 'Flash video, H.263',
    args: '-c:v flv -c:a libmp3lame -ar 44100',
    input: 'both',
    expect: wide,
  },
  {
    name: 'feature.3gp',
    words: 'H.263, AAC',
    args: '-vf scale=352:288 -r 25 -c:v h263 -c:a aac -ar 44100',
    input: 'both',
    expect: { kind: 'video', height: 288, channels: 2 },
  },
  { name: 'loop.gif', words: 'animated GIF', args: '-r 12.5', input: 'picture', expect: silent },
  {
    name: 'loop.webp',
    words: 'animated WebP',
    args: '-c:v libwebp_anim -quality 90 -loop 0',
    input: 'picture',
    expect: silent,
  },
  {
    name: 'mute.mp4',
    words: 'no sound',
    args: '-c:v libx264 -preset ultrafast -pix_fmt yuv420p',
    input: 'picture',
    expect: silent,
  },
  {
    name: 'odd.mp4',
    words: 'odd size, 319 × 179',
    args: '-vf scale=319:179 -c:v libx264 -preset ultrafast -pix_fmt yuv444p',
    input: 'picture',
    expect: { kind: 'video', width: 319, height: 179 },
  },
  {
    name: 'ten-bit.mp4',
    words: '10 bit',
    args: '-c:v libx265 -preset ultrafast -x265-params log-level=none -pix_fmt yuv420p10le',
    input: 'picture',
    expect: { ...silent, note: 'More than 8 bits' },
  },
  {
    name: 'hdr.mp4',
    words: '10 bit, PQ (HDR)',
    args:
      '-c:v libx265 -preset ultrafast -pix_fmt yuv420p10le -color_primaries bt2020 -color_trc smpte2084 ' +
      '-colorspace bt2020nc -x265-params ' +
      'log-level=none:colorprim=bt2020:transfer=smpte2084:colormatrix=bt2020nc',
    input: 'picture',
    expect: { ...silent, note: 'High dynamic range' },
  },
  {
    name: 'interlaced.mpg',
    words: 'interlaced',
    args: '-vf interlace -c:v mpeg2video -flags +ilme+ildct -f mpeg',
    input: 'picture',
    expect: { ...silent, note: 'nterlaced' },
  },
  {
    name: 'anamorphic.mp4',
    words: 'pixels that are not square',
    args: '-vf setsar=4/3 -c:v libx264 -preset ultrafast -pix_fmt yuv420p',
    input: 'picture',
    expect: { kind: 'video' },
  },
  {
    name: 'varying.mp4',
    words: 'variable frame rate',
    args:
      "-vf select='not(mod(n\\,3))+lt(n\\,20)' -fps_mode passthrough " +
      '-c:v libx264 -preset ultrafast -pix_fmt yuv420p',
    input: 'picture',
    expect: { ...silent, variable: true },
  },
  {
    name: 'surround.mkv',
    words: '5.1 sound',
    args: '-c:v libx264 -preset ultrafast -pix_fmt yuv420p -c:a flac',
    input: 'surround',
    expect: { ...silent, channels: 6 },
  },
  { name: 'photo.jpg', words: 'JPEG', args: '-frames:v 1', input: 'still', expect: still },
  { name: 'screen.png', words: 'PNG', args: '-frames:v 1', input: 'still', expect: still },
  {
    name: 'cut-out.png',
    words: 'PNG with transparency',
    args: '-frames:v 1 -vf format=rgba,colorchannelmixer=aa=0.5',
    input: 'still',
    expect: { ...still, alpha: true },
  },
  { name: 'page.webp', words: 'WebP', args: '-frames:v 1 -c:v libwebp', input: 'still', expect: still },
  { name: 'scan.tiff', words: 'TIFF', args: '-frames:v 1', input: 'still', expect: still },
  { name: 'paint.bmp', words: 'BMP', args: '-frames:v 1', input: 'still', expect: still },
  { name: 'mix.wav', words: 'PCM 24 bit', args: '-c:a pcm_s24le', input: 'sound', expect: sound },
  { name: 'song.mp3', words: 'MP3', args: '-c:a libmp3lame', input: 'sound', expect: sound },
  { name: 'memo.m4a', words: 'AAC', args: '-c:a aac', input: 'sound', expect: sound },
  { name: 'master.flac', words: 'FLAC', args: '-c:a flac', input: 'sound', expect: sound },
  { name: 'open.ogg', words: 'Vorbis', args: '-c:a libvorbis', input: 'sound', expect: sound },
  { name: 'voice.opus', words: 'Opus', args: '-c:a libopus', input: 'sound', expect: sound },
  { name: 'office.wma', words: 'Windows Media Audio', args: '-c:a wmav2', input: 'sound', expect: sound },
  { name: 'older.au', words: 'PCM 16 bit', args: '-c:a pcm_s16be', input: 'sound', expect: sound },
  { name: 'disc.eac3', words: 'Dolby Digital Plus', args: '-c:a eac3', input: 'sound', expect: sound },
  { name: 'disc.dts', words: 'DTS', args: '-c:a dca -strict -2', input: 'sound', expect: sound },
  { name: 'lossless.tta', words: 'True Audio', args: '-c:a tta', input: 'sound', expect: sound },
  { name: 'lossless.wv', words: 'WavPack', args: '-c:a wavpack', input: 'sound', expect: sound },
  { name: 'raw.y4m', words: 'frames that are not packed', args: '-pix_fmt yuv420p', input: 'picture', expect: silent },
]
