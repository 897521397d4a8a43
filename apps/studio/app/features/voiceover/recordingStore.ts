import { createStore, delMany, entries, get, keys, promisifyRequest, set, type UseStore } from 'idb-keyval'
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
export interface Part {
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

  /** Writes parts down in one transaction, which is handed in at once: it ends also where the page goes away. */
  async add(id: string, parts: readonly Part[]): Promise<void> {
    await database()('readwrite', (table) => {
      for (const part of parts) table.put(part, partKey(id, part.at))
      table.transaction.commit()
      return promisifyRequest(table.transaction)
    })
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
 * Writes one recording down while it is made. Parts that come while others are being written wait and go together, so
 * that a slow disk is never more than one transaction behind.
 */
export class RecordingWriter {
  private waiting: Part[] = []
  private under: Part[] = []
  private writing: Promise<void> | null = null

  /** @param onFailed called for parts that could not be written; they are given up */
  constructor(
    private readonly id: string,
    private readonly onFailed: (error: unknown) => void,
  ) {}

  add(part: Part): void {
    this.waiting.push(part)
    this.writing ??= this.writeOn()
  }

  /** Settles when all that was added is written. */
  async settled(): Promise<void> {
    await this.writing
  }

  /** Hands in at once whatever may not be written yet, because the page is about to go away. */
  hurry(): void {
    const left = [...this.under, ...this.waiting]
    if (left.length > 0) void recordings.add(this.id, left).catch(() => {})
  }

  private async writeOn(): Promise<void> {
    while (this.waiting.length > 0) {
      this.under = this.waiting
      this.waiting = []
      try {
        await recordings.add(this.id, this.under)
      } catch (error) {
        this.onFailed(error)
      }
    }
    this.under = []
    this.writing = null
  }
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
