import { execFileSync } from 'node:child_process'

/** Footage that is long and large: four seconds again and again, without being encoded again. */
export function longFootage(path: string, size: string, fps: number, codec: string[], seconds: number): string {
  const part = `${path}.part.mp4`
  const made = `testsrc2=s=${size}:r=${fps}:d=4,noise=alls=12:allf=t`
  execFileSync('ffmpeg', ['-v', 'error', '-y', '-f', 'lavfi', '-i', made, ...codec, part])
  const again = ['-stream_loop', String(Math.ceil(seconds / 4) - 1), '-i', part, '-c', 'copy', path]
  execFileSync('ffmpeg', ['-v', 'error', '-y', ...again])
  return path
}
