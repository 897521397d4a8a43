import { EncodedPacket, EncodedVideoPacketSource, FilePathTarget, MpegTsOutputFormat, Output } from 'mediabunny'
import type { Rate } from '@dusk/timeline'
import type { CopyableFilm } from './copyableFilm'

/**
 * Copies coded pictures of a film to a chunk, a transport stream that begins at zero.
 * @param first number of the first frame, `count` how many; both ends stand by themselves
 * @param copied called with each picture
 */
export async function copySpan(
  film: CopyableFilm,
  { first, count, rate, out }: { first: number; count: number; rate: Rate; out: string },
  options: { signal?: AbortSignal; copied?: () => void } = {},
): Promise<void> {
  const output = new Output({ format: new MpegTsOutputFormat(), target: new FilePathTarget(out) })
  const source = new EncodedVideoPacketSource('avc')
  output.addVideoTrack(source)
  await output.start()
  const length = rate.den / rate.num
  const { decoderConfig } = film
  let number = 0
  try {
    for await (const { data, frame, key } of film.pictures(first, count)) {
      options.signal?.throwIfAborted()
      const packet = new EncodedPacket(data, key ? 'key' : 'delta', (frame - first) * length, length, number++)
      await source.add(packet, { decoderConfig })
      options.copied?.()
    }
    await output.finalize()
  } catch (error) {
    await output.cancel()
    throw error
  }
}
