import { once } from 'node:events'
import { frameCount, PROXY_KEYFRAMES, PROXY_RATE, type SourceMetadata } from '@dusk/timeline'
import { words } from './arguments'
import { FRAME_PROGRESS_ARGS, frameProgress } from './frameProgress'
import { FrameReader } from './frameReader'
import { i420Size } from './i420'
import { proxySize } from './inputTransform'
import { ended, startTool, tail } from './tool'

/** Source frames before and after a stretch that the motion in it is judged by. */
const CONTEXT = 3

/** What is written and how large. */
export interface MadeBetween {
  width: number
  height: number
  frames: number
}

/**
 * Makes the frames between those of a stretch of a source, by ffmpeg's motion-compensated interpolation, at full size
 * and as a proxy. Frame n of the result lies `n / factor` source frames after the stretch's first; those that fall on a
 * frame of the source are that frame.
 * @param first number of the stretch's first source frame
 * @param count source frames in it; beyond the end of the source its last frame stands still
 * @param factor frames made for each of the source's
 */
export async function makeBetween(
  path: string,
  metadata: SourceMetadata,
  { first, count, factor }: { first: number; count: number; factor: number },
  out: { video: string; proxy: string },
  options: { signal?: AbortSignal; progress?: (part: number) => void } = {},
): Promise<MadeBetween> {
  const [width, height] = [metadata.width!, metadata.height!]
  const last = frameCount(metadata.table!) - 1
  const from = Math.max(0, first - CONTEXT)
  const lead = first - from
  const fed = lead + count + CONTEXT
  const wanted = count * factor
  const small = proxySize(width, height)
  const colour = '-colorspace bt709 -color_primaries bt709 -color_trc bt709 -color_range tv'
  // The rate is only a count here: one frame in is one second, `factor` frames out are.
  const graph =
    `[0:v]minterpolate=fps=${factor}:mi_mode=mci:mc_mode=aobmc:me_mode=bidir:vsbmc=1,` +
    `trim=start_frame=${lead * factor}:end_frame=${lead * factor + wanted},` +
    `settb=1/${PROXY_RATE},setpts=N,fps=${PROXY_RATE},split[full][half];` +
    `[half]scale=${small.width}:${small.height}:flags=bicubic,format=yuv420p[small]`
  const written = (map: string, quality: string, to: string) =>
    words(
      `-map [${map}] -fps_mode passthrough -enc_time_base 1/${PROXY_RATE} -c:v libx264 ${quality} -bf 0`,
      `-g ${PROXY_KEYFRAMES} -keyint_min ${PROXY_KEYFRAMES} -sc_threshold 0 ${colour}`,
      `-video_track_timescale ${PROXY_RATE} -movflags +faststart -f mp4`,
      [to],
    )
  const child = startTool(
    'ffmpeg',
    [
      ...words('-v error -nostdin -y', FRAME_PROGRESS_ARGS),
      ...words(`-f rawvideo -pix_fmt yuv420p -s ${width}x${height} -r 1 -i pipe:0 -filter_complex`, [graph]),
      ...written('full', '-preset veryfast -crf 12', out.video),
      ...written('small', '-preset veryfast -crf 21', out.proxy),
    ],
    'pipe',
    true,
  )
  let frames = 0
  const heard = frameProgress((found) => {
    frames = found
    options.progress?.(Math.min(1, frames / wanted))
  })
  const log = tail(child.stderr!, 16_384, heard)
  child.stdout!.resume()
  const stop = () => child.kill('SIGKILL')
  options.signal?.addEventListener('abort', stop)
  const done = ended(child, 'ffmpeg', log)
  done.catch(() => {})
  const reader = new FrameReader(path, metadata, from)
  try {
    // A pipe to a program that has ended says so by itself; its own words are what is told.
    child.stdin!.on('error', () => {})
    const planes = Buffer.alloc(i420Size(width, height))
    for (let n = 0; n < fed && child.exitCode === null; n++) {
      options.signal?.throwIfAborted()
      if (from + n <= last) await reader.readInto(planes)
      if (!child.stdin!.write(Buffer.from(planes))) await Promise.race([once(child.stdin!, 'drain'), done])
    }
    child.stdin!.end()
    await done
    options.signal?.throwIfAborted()
  } catch (error) {
    stop()
    options.signal?.throwIfAborted()
    throw error
  } finally {
    options.signal?.removeEventListener('abort', stop)
    await reader.close()
  }
  return { width, height, frames }
}
