import { createStore, delMany, entries, get, keys, set, type UseStore } from 'idb-keyval'
import { wavHeader, wavSamples } from '@dusk/sound'

/** What is known of a recording while it is made. */
export interface RecordingFacts {
  id: string
  projectId: string
  reelId: string
  trackId: string
  name: string
  /** Reel position at which play began, and the one from which on it is to be heard, in ticks. */
  playedFrom: number
  from: number
  /** End of the marked part it was made for, in ticks; `null` where it was ended by hand. */
  to: number | null
  /** Samples by which what is heard comes later than what is played. */
  delay: number
  /** When it was begun, milliseconds since 1970. */
  begunAt: number
}

/** Samples of a recording, counted from where play began. */
interface Part {
  at: number
  samples: Float32Array
}

let store: UseStore | null = null
const database = () => (store ??= createStore('dusk-recordings', 'parts'))
const partKey = (id: string, at: number) => `${id}/${at.toString().padStart(12, '0')}`

/**
 * Recordings that are not in the library yet, in the browser's own database: what was said is written down while it is
 * recorded, so that a closed tab or a crash keeps it.
 */
export const recordings = {
  begin(facts: RecordingFacts): Promise<void> {
    return set(`${facts.id}/facts`, facts, database())
  },

  add(id: string, part: Part): Promise<void> {
    return set(partKey(id, part.at), part, database())
  },

  /** Those of a project that were not finished, oldest first. */
  async unfinished(projectId: string): Promise<RecordingFacts[]> {
    const all = await keys<string>(database())
    const found = await Promise.all(
      all.filter((key) => key.endsWith('/facts')).map((key) => get<RecordingFacts>(key, database())),
    )
    return found
      .filter((facts): facts is RecordingFacts => facts?.projectId === projectId)
      .sort((a, b) => a.begunAt - b.begunAt)
  },

  /**
   * All of a recording.
   * @returns mono samples from where play began; silence where a part is missing
   */
  async samples(id: string): Promise<Float32Array> {
    const parts = (await entries<string, Part>(database()))
      .filter(([key, part]) => key.startsWith(`${id}/`) && part.samples)
      .map(([, part]) => part)
    return joined(parts)
  },

  async remove(id: string): Promise<void> {
    const own = (await keys<string>(database())).filter((key) => key.startsWith(`${id}/`))
    await delMany(own, database())
  },
}

/**
 * Parts laid where they were recorded: while the reel stood still for a moment the microphone went on, and what it
 * heard then is written over by what follows, so that picture and voice stay together.
 */
export function joined(parts: readonly Part[]): Float32Array {
  const sorted = [...parts].sort((a, b) => a.at - b.at)
  const length = sorted.reduce((most, { at, samples }) => Math.max(most, at + samples.length), 0)
  const all = new Float32Array(length)
  for (const { at, samples } of sorted) all.set(samples, at)
  return all
}

/** Mono samples as a WAV file of 24 bits. */
export function voiceFile(samples: Float32Array, name: string): File {
  const parts = [wavHeader(samples.length, 1), wavSamples(samples)] as Uint8Array<ArrayBuffer>[]
  return new File(parts, `${name}.wav`, { type: 'audio/wav' })
}
