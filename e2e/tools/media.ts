import { execFileSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { copyFileSync, existsSync, mkdtempSync, renameSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { extname, join } from 'node:path'
import { BT709_ARGS } from '@dusk/media'

/** Runs ffmpeg. */
export function ffmpeg(...args: string[]): Buffer {
  return execFileSync('ffmpeg', ['-v', 'error', '-y', ...args], { maxBuffer: 1 << 30 })
}

/** A folder for a test's files; it goes with the data of the run. */
export function folder(): string {
  return mkdtempSync(join(process.env.DUSK_DATA ?? tmpdir(), 'e2e-'))
}

/** Makes a file by ffmpeg: the first time in a run; whoever asks for the same again is given a copy. */
export function makeOnce(path: string, ...args: string[]): string {
  if (!process.env.DUSK_DATA) {
    ffmpeg(...args, path)
    return path
  }
  const name = createHash('sha256').update(args.join('\n')).digest('hex').slice(0, 16) + extname(path)
  const kept = join(process.env.DUSK_DATA, `made-${name}`)
  if (!existsSync(kept)) {
    const begun = join(process.env.DUSK_DATA, `begun-${process.pid}-${name}`)
    ffmpeg(...args, begun)
    renameSync(begun, kept)
  }
  copyFileSync(kept, path)
  return path
}

/** Makes an H.264 file of a made picture and a made sound, with its colours told. */
function movie(path: string, picture: string, sound: string, ...audio: string[]): string {
  return makeOnce(
    path,
    ...['-f', 'lavfi', '-i', picture, '-f', 'lavfi', '-i', sound, '-vf', 'scale=out_color_matrix=bt709:out_range=tv'],
    ...['-c:v', 'libx264', '-preset', 'veryfast', '-crf', '16', ...BT709_ARGS, '-c:a', 'aac', ...audio],
  )
}

/** Six seconds at 25 a second: a moving pattern, and once a second one white frame with a 1 kHz beep of 40 ms. */
export function flashAndBeep(path: string): string {
  const flashes = "testsrc2=s=1280x720:r=25:d=6,drawbox=t=fill:c=white:enable='lt(mod(t,1),0.039)'"
  const beeps = "aevalsrc='if(lt(mod(t,1),0.04),0.8*sin(2*PI*1000*t),0)':s=48000:d=6:c=stereo"
  return movie(path, flashes, beeps, '-b:a', '192k')
}

/** Four seconds at 30 a second of drifting colour bars, with a 300 Hz tone. */
export function colourBars(path: string): string {
  return movie(path, 'smptehdbars=s=1920x1080:r=30:d=4,scroll=horizontal=0.004', 'sine=f=300:d=4:r=48000')
}

/**
 * Twelve seconds of a chord as WAV.
 * @param pitch Hz of its lower tone; a file that is taken away has one of its own, since equal files are stored once
 */
export function song(path: string, pitch = 220): string {
  const chord = `aevalsrc='0.2*sin(2*PI*${pitch}*t)+0.2*sin(2*PI*${pitch * 1.5}*t)':s=44100:d=12`
  return makeOnce(path, '-f', 'lavfi', '-i', chord, '-ac', '2')
}

export interface Probed {
  video: { frames: number; start: number; width: number; height: number }
  audio: { seconds: number; start: number }
}

/** What ffprobe says of a rendered file. */
export function probe(path: string): Probed {
  const text = execFileSync('ffprobe', [
    '-v',
    'error',
    '-count_frames',
    '-show_streams',
    '-print_format',
    'json',
    path,
  ]).toString()
  const streams = (JSON.parse(text) as { streams: Record<string, string>[] }).streams
  const video = streams.find((stream) => stream.codec_type === 'video')!
  const audio = streams.find((stream) => stream.codec_type === 'audio')!
  return {
    video: {
      frames: Number(video.nb_read_frames),
      start: Number(video.start_time),
      width: Number(video.width),
      height: Number(video.height),
    },
    audio: { seconds: Number(audio.duration), start: Number(audio.start_time) },
  }
}

/** Every frame of a file as RGBA at its own size, or only luma at a small one. */
export function lumaMeans(path: string): number[] {
  const raw = ffmpeg(
    '-i',
    path,
    '-an',
    '-vf',
    'scale=16:9:flags=area,format=gray',
    '-fps_mode',
    'passthrough',
    '-f',
    'rawvideo',
    'pipe:1',
  )
  const means: number[] = []
  for (let at = 0; at < raw.length; at += 144) means.push(raw.subarray(at, at + 144).reduce((a, b) => a + b, 0) / 144)
  return means
}

/** Left channel at 48 kHz, as it is heard from the file's time zero on. */
export function samples(path: string): Float32Array {
  const raw = ffmpeg(
    '-i',
    path,
    '-vn',
    '-af',
    'aresample=async=1:first_pts=0',
    '-ac',
    '1',
    '-ar',
    '48000',
    '-f',
    'f32le',
    'pipe:1',
  )
  return new Float32Array(raw.buffer.slice(raw.byteOffset, raw.byteOffset + raw.length))
}
