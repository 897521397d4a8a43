import { runTool } from '../tool'

/** A frame of a file as a JPEG of a height. @param seconds from its beginning */
export function takePicture(path: string, seconds: number, height: number, signal?: AbortSignal): Promise<Buffer> {
  const from = ['-v', 'error', '-nostdin', '-ss', seconds.toFixed(6), '-i', `file:${path}`]
  const one = [
    '-frames:v',
    '1',
    '-vf',
    `scale=-2:${height}`,
    '-q:v',
    '4',
    '-f',
    'image2pipe',
    '-c:v',
    'mjpeg',
    'pipe:1',
  ]
  return runTool('ffmpeg', [...from, ...one], { signal })
}

/**
 * A row of pictures along a film, as one JPEG. Each is sought by itself, so that a long film costs no more than a short
 * one.
 * @param count of pictures, evenly over its length
 */
export function takeStrip(
  path: string,
  seconds: number,
  { count, height }: { count: number; height: number },
  signal?: AbortSignal,
): Promise<Buffer> {
  const places = Array.from({ length: count }, (_, i) => (seconds * (i + 0.5)) / count)
  const inputs = places.flatMap((at) => ['-ss', at.toFixed(3), '-i', `file:${path}`])
  const small = places.map((_, i) => `[${i}:v]scale=-2:${height},setsar=1[p${i}]`)
  const row = `${places.map((_, i) => `[p${i}]`).join('')}hstack=${count}`
  const out = ['-frames:v', '1', '-q:v', '4', '-f', 'image2pipe', '-c:v', 'mjpeg', 'pipe:1']
  const filter = count > 1 ? [...small, row].join(';') : `[0:v]scale=-2:${height}`
  return runTool('ffmpeg', ['-v', 'error', '-nostdin', ...inputs, '-filter_complex', filter, ...out], { signal })
}
