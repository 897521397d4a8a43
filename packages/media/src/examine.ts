import { MAX_TICKS, MOST_STREAMS, tableLength, type SourceMetadata } from '@dusk/timeline'
import { BadMedia } from './badMedia'
import { readTiming } from './frames'
import { inputTransform } from './inputTransform'
import { probe } from './probe'
import { readStillInfo, stillFormat } from './still'

const NOTHING: Omit<SourceMetadata, 'kind' | 'container'> = {
  stillFormat: null,
  start: 0,
  zero: 0,
  seekable: true,
  table: null,
  width: null,
  height: null,
  alpha: false,
  filters: [],
  videoIndex: null,
  videoCodec: null,
  rate: null,
  variable: false,
  length: 0,
  sounds: [],
  notes: [],
}

/**
 * A first look at a file, enough to put it on the timeline.
 * @param size bytes of the file
 * @throws {BadMedia} in words when it can't be used
 */
export async function examine(path: string, size: number, signal?: AbortSignal): Promise<SourceMetadata> {
  if (size === 0) throw new BadMedia('The file is empty (0 bytes). Copy it again from where it came from.')
  const format = await stillFormat(path)
  if (format) {
    const { width, height, alpha, notes } = await readStillInfo(path, format, signal)
    return { ...NOTHING, kind: 'still', container: format, stillFormat: format, width, height, alpha, notes }
  }
  const info = await probe(path)
  const notes: string[] = []
  if (info.audio.length > MOST_STREAMS)
    notes.push(`Holds ${info.audio.length} sounds; the first ${MOST_STREAMS} are taken.`)
  const common = {
    ...NOTHING,
    container: info.container,
    start: info.start,
    sounds: info.audio.slice(0, MOST_STREAMS).map((stream) => ({ ...stream, samples: 0 })),
  }
  if (!info.video) {
    if (info.duration <= 0) throw new BadMedia('This sound has no length; it may be damaged.')
    return { ...common, kind: 'sound', length: inADay(info.duration), notes }
  }
  const timing = await readTiming(path, info, false, signal)
  const transform = inputTransform(info.video)
  notes.push(...transform.notes)
  if (timing.variable) notes.push('Its frame rate varies; every frame is shown for as long as the file says.')
  const { table } = timing
  return {
    ...common,
    kind: 'video',
    zero: timing.zero,
    seekable: timing.timed,
    table,
    width: transform.width,
    height: transform.height,
    filters: transform.filters,
    videoIndex: info.video.index,
    videoCodec: info.video.codec,
    rate: table.kind === 'constant' ? table.rate : info.video.averageRate,
    variable: timing.variable,
    length: inADay(tableLength(table)),
    notes,
  }
}

/** A length that a reel can hold. */
function inADay(length: number): number {
  if (length > MAX_TICKS)
    throw new BadMedia('By its own time stamps this file is longer than 24 hours. Cut it into parts and add those.')
  return length
}
