import type { Format } from './list'

const both = { kind: 'video' as const, width: 320, height: 180, channels: 2 }
const mono = { ...both, channels: 1 }
const silent = { kind: 'video' as const, width: 320, height: 180 }
const still = { kind: 'still' as const, width: 320, height: 180 }
const stereo = { kind: 'sound' as const, channels: 2 }
const TEN_BIT = 'More than 8 bits'
const quick = '-preset ultrafast'
const x264 = `-c:v libx264 ${quick} -pix_fmt yuv420p`
const x265 = `-c:v libx265 ${quick} -x265-params log-level=none`

/** A file with picture and stereo sound. */
const film = (name: string, words: string, args: string, expect: Format['expect'] = both): Format => ({
  ...{ name, words, args, expect },
  input: 'both',
})
/** One without sound. */
const mute = (name: string, words: string, args: string, expect: Format['expect'] = silent): Format => ({
  ...{ name, words, args, expect },
  input: 'picture',
})
const sound = (name: string, words: string, args: string, expect: Format['expect'] = stereo): Format => ({
  ...{ name, words, args, expect },
  input: 'sound',
})
const picture = (name: string, words: string, args: string, expect: Format['expect'] = still): Format => ({
  ...{ name, words, args: `-frames:v 1 ${args}`.trim(), expect },
  input: 'still',
})

/** What is rarer: other containers, profiles, samples and rates that Debian's ffmpeg can write. */
export const MORE_FORMATS: Format[] = [
  film('plain.m4v', 'H.264 baseline, AAC', `-c:v libx264 ${quick} -profile:v baseline -pix_fmt yuv420p -c:a aac`),
  film(
    'pyramid.mp4',
    'H.264 with B-frames that lean on B-frames',
    `-c:v libx264 -bf 7 -b-pyramid normal -g 25 -pix_fmt yuv420p`,
  ),
  film(
    'open-gop.mp4',
    'H.264, open groups',
    `-c:v libx264 -x264-params open-gop=1:keyint=12:bframes=3 -pix_fmt yuv420p`,
  ),
  film('intra.mp4', 'H.264, keyframes alone', `${x264} -g 1`),
  film(
    'refresh.mp4',
    'H.264, refreshed without keyframes',
    `-c:v libx264 -x264-params intra-refresh=1:keyint=20 -pix_fmt yuv420p`,
  ),
  film('fragments.mp4', 'H.264 in fragments', `${x264} -g 12 -movflags frag_keyframe+empty_moov`),
  film('moov-last.mp4', 'index at the end, timescale 600', `${x264} -video_track_timescale 600`),
  film('shift.mp4', 'sound that begins later', `${x264} -filter:a adelay=200:all=1,atrim=end=2`),
  film('mono.mp4', 'one channel, 44.1 kHz', `${x264} -ac 1 -ar 44100`, mono),
  film('voice.mp4', 'one channel, 8 kHz', `${x264} -ac 1 -ar 8000`, mono),
  film('alac.mov', 'H.264, ALAC', `${x264} -c:a alac`),
  film('mp3.mp4', 'H.264, MP3', `${x264} -c:a libmp3lame`),
  film('ac3.mp4', 'H.264, AC-3', `${x264} -c:a ac3`),
  film('vorbis.mkv', 'H.264, Vorbis', `${x264} -c:a libvorbis`),
  film('pcm.mkv', 'H.264, PCM', `${x264} -c:a pcm_s16le`),
  film('dts.mkv', 'H.264, DTS', `${x264} -c:a dca -strict -2`),
  film('hevc.mkv', 'H.265, Opus', `${x265} -pix_fmt yuv420p -c:a libopus`),
  film('hevc.ts', 'MPEG-TS, H.265', `${x265} -pix_fmt yuv420p -c:a aac -f mpegts`),
  film('hev1.mp4', 'H.265 with its parameters in the stream', `${x265} -pix_fmt yuv420p -tag:v hev1 -c:a aac`),
  film('av1.mkv', 'AV1, Opus', '-c:v libsvtav1 -preset 12 -c:a libopus'),
  film('av1.webm', 'AV1, Opus', '-c:v libsvtav1 -preset 12 -c:a libopus'),
  film('vp8.webm', 'VP8, Vorbis', '-c:v libvpx -deadline realtime -cpu-used 8 -c:a libvorbis'),
  film('vp9.mp4', 'VP9, AAC', '-c:v libvpx-vp9 -deadline realtime -cpu-used 8 -c:a aac'),
  film('vp9.mkv', 'VP9, FLAC', '-c:v libvpx-vp9 -deadline realtime -cpu-used 8 -c:a flac'),
  film('mpeg1.mpg', 'MPEG-1, MP2', '-c:v mpeg1video -c:a mp2 -f mpeg'),
  film('disc.vob', 'MPEG-2, AC-3', '-c:v mpeg2video -c:a ac3 -f vob'),
  film('broadcast.ts', 'MPEG-TS, MPEG-2', '-c:v mpeg2video -g 12 -bf 2 -c:a mp2 -f mpegts'),
  film('mpeg2.mkv', 'MPEG-2, MP3', '-c:v mpeg2video -c:a libmp3lame'),
  film('studio.mxf', 'MXF, MPEG-2, PCM', '-c:v mpeg2video -c:a pcm_s16le -ar 48000 -f mxf'),
  film('mpeg4.mp4', 'MPEG-4 part 2, AAC', '-c:v mpeg4 -c:a aac'),
  film('xvid.avi', 'MPEG-4 part 2 with B-frames, MP3', '-c:v mpeg4 -bf 2 -vtag XVID -c:a libmp3lame'),
  film('msmpeg4.avi', 'MPEG-4 of Windows, PCM', '-c:v msmpeg4v3 -c:a pcm_s16le'),
  film('photo-cam.avi', 'Motion JPEG, PCM', '-c:v mjpeg -pix_fmt yuvj420p -c:a pcm_s16le'),
  film('photo-cam.mov', 'Motion JPEG, PCM', '-c:v mjpeg -pix_fmt yuvj422p -c:a pcm_s16be'),
  film('h264.avi', 'H.264, AC-3', `-c:v libx264 ${quick} -bf 0 -pix_fmt yuv420p -c:a ac3`),
  film('old.wmv', 'Windows Media 7', '-c:v wmv1 -c:a wmav1'),
  film('old.asf', 'ASF, MPEG-4 of Windows', '-c:v msmpeg4v2 -c:a wmav2'),
  film('open.ogv', 'Theora, Vorbis', '-c:v libtheora -q:v 8 -c:a libvorbis'),
  film('old.3g2', 'MPEG-4 part 2, AAC', '-c:v mpeg4 -c:a aac -f 3g2'),
  film('archive.mkv', 'FFV1, FLAC', '-c:v ffv1 -level 3 -c:a flac'),
  film('archive.avi', 'HuffYUV, PCM', '-c:v ffvhuff -pix_fmt yuv420p -c:a pcm_s16le'),
  film('archive.nut', 'NUT, FFV1, FLAC', '-c:v ffv1 -c:a flac'),
  film('proxy.mov', 'ProRes proxy, PCM', '-c:v prores_ks -profile:v 0 -c:a pcm_s16le', { ...both, note: TEN_BIT }),
  film('hq.mov', 'ProRes HQ, PCM 24 bit', '-c:v prores_ks -profile:v 3 -c:a pcm_s24le', { ...both, note: TEN_BIT }),
  film('dnxhr.mov', 'DNxHR, PCM', '-c:v dnxhd -profile:v dnxhr_sq -pix_fmt yuv422p -c:a pcm_s16le'),
  film('cineform.mov', 'CineForm, PCM', '-c:v cfhd -pix_fmt yuv422p10le -c:a pcm_s16le', { ...both, note: TEN_BIT }),
  film(
    'tape.dv',
    'DV, PCM',
    '-vf scale=720:576,setsar=16/15 -pix_fmt yuv420p -c:v dvvideo -c:a pcm_s16le -ar 48000 -f dv',
    { kind: 'video', height: 576, channels: 2 },
  ),
  mute('animation.mov', 'run lengths (QuickTime animation)', '-c:v qtrle -pix_fmt rgb24'),
  mute('png.mov', 'PNG pictures in MOV', '-c:v png -pix_fmt rgb24'),
  mute('jpeg2000.mov', 'JPEG 2000 in MOV', '-c:v jpeg2000 -pix_fmt yuv420p'),
  mute('raw.avi', 'pictures that are not packed', '-c:v rawvideo -pix_fmt yuv420p'),
  mute('raw.mov', 'pictures that are not packed, 4:2:2', '-c:v rawvideo -pix_fmt uyvy422'),
  mute('screen.mkv', 'H.264 4:4:4', `-c:v libx264 ${quick} -pix_fmt yuv444p`),
  mute('rgb.mkv', 'H.264, RGB', `-c:v libx264rgb ${quick} -qp 0`),
  mute('ten-bit.mkv', 'H.264, 10 bit 4:2:2', `-c:v libx264 ${quick} -pix_fmt yuv422p10le`, {
    ...silent,
    note: TEN_BIT,
  }),
  mute('ten-bit.webm', 'VP9, 10 bit', '-c:v libvpx-vp9 -deadline realtime -cpu-used 8 -pix_fmt yuv420p10le', {
    ...silent,
    note: TEN_BIT,
  }),
  mute('full.mp4', 'full range', `-c:v libx264 ${quick} -vf scale=out_range=full -pix_fmt yuvj420p -color_range pc`),
  mute(
    'hlg.mp4',
    '10 bit, HLG (HDR)',
    `${x265}:colorprim=bt2020:transfer=arib-std-b67:colormatrix=bt2020nc -pix_fmt yuv420p10le ` +
      '-color_primaries bt2020 -color_trc arib-std-b67 -colorspace bt2020nc',
    { ...silent, note: 'High dynamic range' },
  ),
  mute('film.mp4', '23.976 frames a second', `-r 24000/1001 ${x264}`),
  mute('ntsc.mp4', '29.97 frames a second', `-r 30000/1001 ${x264}`),
  mute('fast.mp4', '59.94 frames a second', `-r 60000/1001 ${x264}`),
  mute('slow.mp4', '240 frames a second', `-r 240 ${x264}`),
  // Its last frame is as short as one of the 25 a second that it was taken from.
  mute('sparse.mp4', 'five frames a second', `-vf select='not(mod(n\\,5))' -fps_mode vfr ${x264}`, {
    ...silent,
    seconds: 1.84,
  }),
  mute('grey.mkv', 'H.264, grey', `-c:v libx264 ${quick} -pix_fmt gray`),
  mute(
    'vp9-alpha.webm',
    'VP9 with transparency',
    '-vf format=yuva420p -c:v libvpx-vp9 -deadline realtime -cpu-used 8 -auto-alt-ref 0',
    { ...silent, note: 'ransparency' },
  ),
  mute('prores-alpha.mov', 'ProRes 4444 with transparency', '-vf format=yuva444p10le -c:v prores_ks -profile:v 4', {
    ...silent,
    note: 'ransparency',
  }),
  mute('frames.apng', 'animated PNG', '-plays 0 -f apng'),
  sound('u8.wav', 'PCM 8 bit', '-c:a pcm_u8'),
  sound('cd.wav', 'PCM 16 bit, 44.1 kHz', '-c:a pcm_s16le -ar 44100'),
  sound('float.wav', 'PCM float', '-c:a pcm_f32le'),
  sound('double.wav', 'PCM double', '-c:a pcm_f64le'),
  sound('high.wav', 'PCM 24 bit, 192 kHz', '-c:a pcm_s24le -ar 192000'),
  sound('phone.wav', 'A-law, 8 kHz', '-c:a pcm_alaw -ar 8000'),
  sound('adpcm.wav', 'ADPCM', '-c:a adpcm_ms'),
  sound('long.w64', 'Wave64', '-c:a pcm_s16le -f w64'),
  sound('long.rf64', 'RF64', '-c:a pcm_s16le -rf64 always -f wav'),
  sound('mix.aiff', 'AIFF', '-c:a pcm_s16be'),
  sound('mix.caf', 'CAF, ALAC', '-c:a alac -f caf'),
  sound('memo.caf', 'CAF, PCM', '-c:a pcm_s16le -f caf'),
  sound('lossless.m4a', 'ALAC', '-c:a alac'),
  sound('stream.aac', 'AAC without a container', '-c:a aac -f adts'),
  sound('tight.mp3', 'MP3, 32 kbit/s, 22 kHz', '-c:a libmp3lame -b:a 32k -ar 22050'),
  sound('varying.mp3', 'MP3 of varying rate', '-c:a libmp3lame -q:a 4'),
  sound('tower.mp2', 'MP2', '-c:a mp2'),
  sound('disc.ac3', 'AC-3', '-c:a ac3'),
  sound('flac.ogg', 'FLAC in Ogg', '-c:a flac -f ogg'),
  sound('speech.ogg', 'Speex', '-c:a libspeex -ar 16000'),
  sound('opus.webm', 'Opus in WebM', '-c:a libopus'),
  sound('sound.mka', 'AAC in Matroska', '-c:a aac'),
  sound('deep.flac', 'FLAC 24 bit, 96 kHz', '-c:a flac -sample_fmt s32 -ar 96000'),
  picture('grey.jpg', 'JPEG, grey', '-pix_fmt gray'),
  picture('full.jpg', 'JPEG 4:4:4', '-pix_fmt yuvj444p'),
  picture('deep.png', 'PNG, 16 bit', '-pix_fmt rgb48be'),
  picture('palette.png', 'PNG with a palette', '-pix_fmt pal8'),
  picture('grey.png', 'PNG, grey', '-pix_fmt gray'),
  picture('lossless.webp', 'WebP without loss', '-c:v libwebp -lossless 1'),
  picture('deep.tiff', 'TIFF, 16 bit', '-pix_fmt rgb48le'),
  picture('packed.tiff', 'TIFF, packed', '-pix_fmt rgb24 -compression_algo deflate'),
  picture('one.gif', 'GIF of one picture', ''),
  picture('new.avif', 'AVIF', '-c:v libaom-av1 -still-picture 1 -cpu-used 8 -pix_fmt yuv420p'),
]

/** A file that is refused, and how it is made: by ffmpeg, or of these first bytes. */
export interface Refused {
  name: string
  args?: string
  bytes?: string
  /** A part of what the person is told. */
  words: string
}

/** What is not read, and is called by its name. */
export const REFUSED: Refused[] = [
  { name: 'scan.jp2', args: '-c:v jpeg2000', words: 'JPEG 2000' },
  { name: 'game.tga', args: '', words: 'TGA' },
  { name: 'flat.tga', args: '-rle 0', words: 'TGA' },
  { name: 'plain.ppm', args: '', words: 'PNM' },
  { name: 'plain.pgm', args: '-pix_fmt gray', words: 'PNM' },
  { name: 'plain.pam', args: '', words: 'PNM' },
  { name: 'effect.exr', args: '', words: 'OpenEXR' },
  { name: 'scan.dpx', args: '', words: 'DPX' },
  { name: 'layers.psd', bytes: '8BPS\0\x01', words: 'layered picture' },
  { name: 'script.pdf', bytes: '%PDF-1.7\n', words: 'PDF' },
  { name: 'old.rm', bytes: '.RMF\0\0', words: 'RealMedia' },
  { name: 'shots.zip', bytes: 'PK\x03\x04', words: 'ZIP' },
  { name: 'list.m3u8', bytes: '#EXTM3U\n#EXTINF:1,\na.ts\n', words: 'list that points to other files' },
  { name: 'list.mpd', bytes: '<?xml version="1.0"?><MPD/>', words: 'list that points to other files' },
  { name: 'letter.txt', bytes: 'Lanterns at nine, by the quay.\n'.repeat(20), words: 'not a video, sound or picture' },
]
