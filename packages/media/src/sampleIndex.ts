import { EncodedPacketSink } from 'mediabunny'
import { z } from 'zod'
import { TICKS_PER_SECOND } from '@dusk/timeline'
import { openIndexed } from './indexedFilm'
import type { SourceInfo } from './probe'
import { inputArgs, runTool } from './tool'

/** When one picture of a file begins and how long it is, in seconds on the file's clock. */
export interface PacketTime {
  at: number
  length: number
}

/** Packets at the beginning, and seconds at the end, by which an index is checked. */
const [FIRST, LAST_SECONDS] = [48, 2]
/** Times of one packet, read in two ways, differ by less than this many seconds. */
const TOLERANCE = 2e-6

/** Milliseconds that an index may keep this process busy; one that takes longer was made to, or is read elsewhere. */
const PATIENCE_MS = 3000

const packetsSchema = z.object({
  packets: z.array(
    z.object({ pts_time: z.string().optional(), duration_time: z.string().optional(), flags: z.string() }),
  ),
})

/**
 * The times of a file's pictures from the index that MP4 and MOV carry (ISO/IEC 14496-12 § 8.6), without reading the
 * pictures themselves: a tenth of a second for what takes seconds in gigabytes of footage. Where edit lists, fragments
 * or an odd index let it differ from what is really read at both ends of the file, it is not relied upon.
 * @returns in file order, or `null` when the packets have to be read
 */
export async function readSampleIndex(
  path: string,
  info: SourceInfo,
  signal?: AbortSignal,
): Promise<PacketTime[] | null> {
  if (!info.container.split(',').includes('mp4')) return null
  const end = (info.start + info.duration) / TICKS_PER_SECOND
  // Both ends in one run; a place is sought by its keyframe, so that the second part begins before it.
  const intervals = `%+#${FIRST},${Math.max(0, end - LAST_SECONDS).toFixed(3)}%`
  const [indexed, read] = await Promise.all([
    fromIndex(path, info.video!.track).catch(() => null),
    readPackets(path, info.video!.index, intervals, signal),
  ])
  return indexed && indexed.length > FIRST && agree(indexed, read) ? indexed : null
}

/** To six digits, as ffprobe prints: a table is the same whichever way it was read. */
const micro = (seconds: number) => Number(seconds.toFixed(6))

/** Times by the index, or `null` when there is none for this track. */
async function fromIndex(path: string, id: number | null): Promise<PacketTime[] | null> {
  const input = openIndexed(path)
  try {
    const track = (await input.getVideoTracks()).find((one) => one.id === id)
    if (!track) return null
    const times: PacketTime[] = []
    const began = performance.now()
    for await (const packet of new EncodedPacketSink(track).packets(undefined, undefined, { metadataOnly: true })) {
      times.push({ at: micro(packet.timestamp), length: micro(packet.duration) })
      if (times.length % 1000 === 0 && performance.now() - began > PATIENCE_MS) return null
    }
    return times
  } finally {
    input.dispose()
  }
}

/** Times as the file's packets give them in two places; what an edit list leaves out is not among them. */
async function readPackets(
  path: string,
  stream: number,
  intervals: string,
  signal?: AbortSignal,
): Promise<(PacketTime | null)[]> {
  const shown = ['-show_entries', 'packet=pts_time,duration_time,flags', '-of', 'json']
  const args = ['-v', 'error', '-select_streams', String(stream), '-read_intervals', intervals, ...shown]
  const out = await runTool('ffprobe', [...args, ...inputArgs(path)], { signal, timeout: 600_000 })
  return packetsSchema
    .parse(JSON.parse(out.toString('latin1')))
    .packets.map(({ pts_time, duration_time, flags }) =>
      pts_time === undefined || flags.includes('D') ? null : { at: Number(pts_time), length: Number(duration_time) },
    )
}

/** Whether what was read is the beginning and the end of what the index tells. */
function agree(indexed: readonly PacketTime[], read: readonly (PacketTime | null)[]): boolean {
  const like = (a: PacketTime | undefined, b: PacketTime | null | undefined) =>
    a != null && b != null && Math.abs(a.at - b.at) < TOLERANCE
  const tail = read.slice(FIRST)
  const from = indexed.length - tail.length
  return (
    tail.length > 0 &&
    from >= 0 &&
    read.slice(0, FIRST).every((packet, i) => like(indexed[i], packet)) &&
    tail.every((packet, i) => like(indexed[from + i], packet))
  )
}
