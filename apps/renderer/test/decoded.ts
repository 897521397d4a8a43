import { execFileSync } from 'node:child_process'
import { i420Size } from '@dusk/media'

/** All frames of a file, decoded to 4:2:0 planes, in the order in which they are shown. */
export function decodedFrames(path: string, width: number, height: number): Buffer[] {
  const args = [
    '-v',
    'error',
    '-i',
    path,
    '-fps_mode',
    'passthrough',
    '-f',
    'rawvideo',
    '-pix_fmt',
    'yuv420p',
    'pipe:1',
  ]
  const raw = execFileSync('ffmpeg', args, { maxBuffer: 1 << 28 })
  const size = i420Size(width, height)
  return Array.from({ length: raw.length / size }, (_, n) => raw.subarray(n * size, (n + 1) * size))
}

/** Luma in the middle of every frame of a file. */
export function middleLumas(path: string, width: number, height: number): number[] {
  return decodedFrames(path, width, height).map((frame) => frame[Math.floor(height / 2) * width + width / 2]!)
}
