import { open, writeFile } from 'node:fs/promises'
import { SAMPLE_RATE, TICKS_PER_SECOND, type SourceMetadata } from '@dusk/timeline'
import { WaveformBuilder, SOUND_HEADER_BYTES, writeSoundHeader } from '@dusk/sound'
import { words } from './arguments'
import { BadMedia } from './badMedia'
import { inputArgs, runTool } from './tool'

/**
 * Writes the canonical sound of one stream (see `soundFile`) and its waveform. Sample 0 is asset zero: a stream that
 * starts later begins with silence, one that starts earlier is cut. Silence is left as a hole in the file.
 * @returns samples written a channel
 * @throws {BadMedia} when not one can be decoded
 */
export async function makeSound(
  path: string,
  metadata: SourceMetadata,
  stream: number,
  out: string,
  waveformOut: string,
  options: { signal?: AbortSignal; progress?: (part: number) => void } = {},
): Promise<number> {
  const { channels, index } = metadata.sounds[stream]!
  const zero = metadata.table ? (metadata.zero - metadata.start) / TICKS_PER_SECOND : 0
  const filters = [
    ...(zero !== 0 ? [`asetpts=PTS-${zero.toFixed(9)}/TB`] : []),
    `aresample=${SAMPLE_RATE}:resampler=swr:filter_size=64:async=1:first_pts=0`,
  ].join(',')
  const file = await open(out, 'w')
  const waveform = new WaveformBuilder(channels)
  const frame = channels * 4
  let rest = Buffer.alloc(0)
  let samples = 0
  try {
    await runTool(
      'ffmpeg',
      [
        ...words('-v error -nostdin -max_error_rate 1 -progress pipe:2 -stats_period 0.5', inputArgs(path), '-map', [
          `0:${index}`,
        ]),
        ...words('-vn -sn -dn -af', [filters], `-ac ${channels} -c:a pcm_f32le -f f32le pipe:1`),
      ],
      {
        signal: options.signal,
        onLine: watch(metadata.length, options.progress),
        onData: async (data) => {
          const all = rest.length > 0 ? Buffer.concat([rest, data]) : data
          const whole = all.length - (all.length % frame)
          rest = Buffer.from(all.subarray(whole))
          if (whole === 0) return
          // A copy: the floats must lie on a multiple of four.
          const block = new Float32Array(all.buffer.slice(all.byteOffset, all.byteOffset + whole))
          const at = SOUND_HEADER_BYTES + samples * frame
          samples += whole / frame
          waveform.push(block)
          if (block.some((value) => value !== 0)) await file.write(Buffer.from(block.buffer), 0, whole, at)
        },
      },
    )
    if (samples === 0) throw new BadMedia('Not one sample of its sound could be decoded. It may be damaged.')
    await file.truncate(SOUND_HEADER_BYTES + samples * frame)
    await file.write(writeSoundHeader({ channels, sampleRate: SAMPLE_RATE, samples }), 0, SOUND_HEADER_BYTES, 0)
  } finally {
    await file.close()
  }
  await writeFile(waveformOut, waveform.finish())
  return samples
}

/** Calls `progress` with the part done, from ffmpeg's own reports. */
function watch(length: number, progress?: (part: number) => void): (line: string) => void {
  return (line) => {
    const match = /^out_time_us=(\d+)/.exec(line)
    if (match && length > 0) progress?.(Math.min((Number(match[1]) / 1e6) * (TICKS_PER_SECOND / length), 1))
  }
}
