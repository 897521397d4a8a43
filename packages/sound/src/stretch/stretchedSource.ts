import { isBackwards, mapTime, TICKS_PER_SAMPLE, type SoundPiece, type SoundTimePlan } from '@dusk/timeline'
import { LRUCache } from 'lru-cache'
import type { PieceSource, StereoReader } from '../mixer/pieceSource'
import type { StretchEngine, StretchEngines } from './engine'
import { ONSET_REACH, OnsetKeeper, type Run } from './onsetKeeper'
import { resampleAt, resampleReach } from './resample'
import { drifted, findSeam, seamWeights } from './seam'
import { isTrap } from '../trap'

export type { StretchEngines } from './engine'

/** A piece whose sound can't be stretched: trying it again would stop in the same way. */
export class StretchFailed extends Error {
  constructor(
    readonly piece: SoundPiece,
    cause: unknown,
  ) {
    super('A sound can’t be stretched to its speed: what stretches it stopped at a fault of its own.', { cause })
    this.name = 'StretchFailed'
  }
}

/** Samples of clip time in a portion: stretched on its own, so that it comes out alike wherever play begins. */
const PORTION = 96_000
/** Samples by which a portion is run up, and over which it passes into the next. */
const RUN_UP = 14_400
const OVERLAP = 960
/** Samples made at a time: the speed is followed in steps of this. */
const STEP = 480

/** Slowest that the smooth engine plays at a time: below it partials lose each other, and a tone comes and goes. */
const SLOWEST = 0.5

/** A portion of stretched sound. */
interface Portion {
  /** Interleaved stereo, with what overlaps the next portion. */
  samples: Float32Array
  /** Samples up to the first that has to stay where it is: an onset, or the end. */
  steady: number
}

/** Portions that were made, by what they are made of; as they are, and as they follow the one before. */
const made = new LRUCache<string, Promise<Portion>>({ max: 160 })
const joined = new LRUCache<string, Promise<{ samples: Float32Array; likeness: number }>>({ max: 80 })
/** One stretcher is at work at a time: the library has only one. */
let busy: Promise<unknown> = Promise.resolve()

/** Half as fast as it was recorded, in the manner of music. */
const HALF: SoundTimePlan = {
  ...{ map: { kind: 'constant', source: 0, speed: 0.5 }, pitch: 'keep', shift: 0, engine: 'music' },
}

/** How often a source has to be played at half its speed before what is left is no slower than an engine likes it. */
function halvingsOf(map: SoundTimePlan['map']): number {
  if (map.kind === 'freeze') return 0
  const slowest = map.kind === 'constant' ? Math.abs(map.speed) : Math.min(...map.points.map(({ speed }) => speed))
  return Math.max(0, Math.ceil(Math.log2(SLOWEST / slowest)))
}

/** A source that does not run at its own speed or pitch. */
export class StretchedSource implements PieceSource {
  private readonly time: SoundTimePlan
  /** Clip time of the piece's first sample, in samples. */
  private readonly offset: number
  private readonly key: string
  /** What is stretched: the source, or it played slower already. */
  private readonly source: StereoReader
  /** Factor by which places in what is stretched lie beyond those of the source. */
  private readonly wide: number

  /** @param identity what plays, so that portions can be shared; `null` where nothing names it */
  constructor(
    private readonly piece: SoundPiece,
    source: StereoReader,
    private readonly engines: StretchEngines | null,
    identity: string | null,
  ) {
    this.time = piece.time!
    this.offset = Math.round(piece.clock / TICKS_PER_SAMPLE)
    const name = identity ?? crypto.randomUUID()
    this.key = `${name} ${JSON.stringify(piece.time)}`
    const halvings = this.time.engine === 'music' && this.time.pitch === 'keep' ? halvingsOf(this.time.map) : 0
    this.wide = 2 ** halvings
    let read = source
    for (let n = 0; n < halvings; n++) {
      const inner = new StretchedSource({ ...piece, clock: 0, time: HALF }, read, engines, `${name} half ${n}`)
      read = (from, count) => inner.read(from, count)
    }
    this.source = read
  }

  async read(from: number, count: number): Promise<Float32Array> {
    const out = new Float32Array(count * 2)
    const [first, last] = [this.offset + from, this.offset + from + count]
    for (let n = Math.floor(first / PORTION); n * PORTION < last; n++) {
      const start = n * PORTION
      const [{ samples: portion, likeness }, before] = await Promise.all([
        this.following(n),
        first < start + OVERLAP && last > start ? this.portion(n - 1) : null,
      ])
      for (let at = Math.max(first, start); at < Math.min(last, start + PORTION); at++) {
        const [k, o] = [(at - start) * 2, (at - first) * 2]
        const t = (at - start + 0.5) / OVERLAP
        if (t >= 1 || !before) {
          out[o] = portion[k]!
          out[o + 1] = portion[k + 1]!
          continue
        }
        const b = (at - start + PORTION) * 2
        const [goes, comes] = seamWeights(t, likeness)
        out[o] = before.samples[b]! * goes + portion[k]! * comes
        out[o + 1] = before.samples[b + 1]! * goes + portion[k + 1]! * comes
      }
    }
    return out
  }

  /** A portion as it goes on from the one before: its waves in step with those there. */
  private following(n: number): Promise<{ samples: Float32Array; likeness: number }> {
    const key = `${this.key} ${n}`
    let found = joined.get(key)
    if (!found) {
      found = Promise.all([this.portion(n), this.portion(n - 1)]).then(([{ samples, steady }, before]) => {
        const tail = before.samples.subarray(PORTION * 2)
        // The smooth engine keeps its phases by itself, and what goes like a tape is the source's.
        const movable = this.time.pitch === 'keep' && this.time.engine === 'speech' ? steady : 0
        const { lag, likeness } = findSeam(tail, samples, movable)
        return { samples: drifted(samples, lag, movable), likeness: Math.max(0, likeness) }
      })
      found.catch(() => joined.delete(key))
      joined.set(key, found)
    }
    return found
  }

  /** A portion of clip time, with what overlaps the next. */
  private portion(n: number): Promise<Portion> {
    const key = `${this.key} ${n}`
    let found = made.get(key)
    if (!found) {
      found = this.make(n * PORTION, PORTION + OVERLAP).catch((error: unknown) => {
        if (isTrap(error)) throw new StretchFailed(this.piece, error)
        made.delete(key)
        throw error
      })
      found.catch(() => {})
      made.set(key, found)
    }
    return found
  }

  private async make(start: number, count: number): Promise<Portion> {
    const { pitch, engine } = this.time
    if (pitch === 'follow') return { samples: await this.wound(start, count), steady: count }
    if (!this.engines) return { samples: new Float32Array(count * 2), steady: count }
    const { source, zero } = await this.needed(start, count)
    const stretcher = await this.engines[engine]()
    const turn = busy.then(() => this.stretched(stretcher, source, zero, start, count))
    busy = turn.catch(() => {})
    return turn
  }

  /** Source sample at a place of clip time; with a sign, so that it always rises. */
  private place(at: number): number {
    const sample = (mapTime(this.time.map, Math.round(at * TICKS_PER_SAMPLE)) / TICKS_PER_SAMPLE) * this.wide
    return isBackwards(this.time.map) ? -sample : sample
  }

  /** Samples of the source between two places, turned round where it plays backwards. */
  private async between(from: number, to: number): Promise<Float32Array> {
    if (to <= from) return new Float32Array(0)
    if (!isBackwards(this.time.map)) return this.source(from, to - from)
    const samples = await this.source(-to, to - from)
    const n = samples.length / 2
    const turned = new Float32Array(samples.length)
    for (let i = 0; i < n; i++) {
      turned[i * 2] = samples[(n - 1 - i) * 2]!
      turned[i * 2 + 1] = samples[(n - 1 - i) * 2 + 1]!
    }
    return turned
  }

  private get keepsOnsets(): boolean {
    return this.time.engine === 'speech' && this.time.shift === 0
  }

  /** What a portion is made from, and the place of its first sample. */
  private async needed(start: number, count: number): Promise<{ source: Float32Array; zero: number }> {
    const reach = this.keepsOnsets ? ONSET_REACH : RUN_UP
    const zero = Math.round(this.place(start - RUN_UP - reach))
    const to = Math.round(this.place(start + count + reach)) + reach
    return { source: await this.between(zero, to), zero }
  }

  private stretched(engine: StretchEngine, source: Float32Array, zero: number, start: number, count: number): Portion {
    const [begin, end] = [start - RUN_UP, start + count]
    const out = new Float32Array(count * 2)
    if (!this.keepsOnsets) {
      const all = { from: begin, to: end, low: -Infinity, high: Infinity }
      this.run(engine, source, zero, all, (at) => this.place(at), out, start)
      return { samples: out, steady: PORTION }
    }
    const onsets = new OnsetKeeper(source, zero, begin, end, (at) => this.place(at))
    for (const run of onsets.runs(begin, end))
      if (run.to > start) this.run(engine, source, zero, run, (at) => onsets.place(at), out, start)
    onsets.restore(out, start)
    return { samples: out, steady: Math.min(PORTION, Math.max(0, onsets.firstAfter(start) - start)) }
  }

  /** Stretches one run of clip time by a stretcher of its own, into `out`, which begins at `start`. */
  private run(
    engine: StretchEngine,
    source: Float32Array,
    zero: number,
    { from, to, low, high }: Run,
    place: (at: number) => number,
    out: Float32Array,
    start: number,
  ): void {
    const stretcher = engine.create(this.time.shift)
    try {
      const { inputLatency, outputLatency } = stretcher
      const end = to + outputLatency
      // The first step brings what the stretcher wants to have seen before it begins.
      let taken = Math.max(low, Math.round(place(from)))
      for (let at = from; at < end; at += STEP) {
        const next = Math.max(taken, Math.round(place(at + STEP)) + inputLatency)
        const input = source.slice((taken - zero) * 2, (next - zero) * 2)
        if (next > high) input.fill(0, Math.max(0, high - taken) * 2)
        const block = stretcher.process(input, STEP)
        taken = next
        const land = at - outputLatency
        for (let i = 0; i < STEP; i++) {
          if (land + i < Math.max(from, start) || land + i >= to) continue
          const o = (land + i - start) * 2
          out[o] = block[i * 2]!
          out[o + 1] = block[i * 2 + 1]!
        }
      }
    } finally {
      stretcher.release()
    }
  }

  /** Pitch goes with the speed, as when a tape is wound. */
  private async wound(start: number, count: number): Promise<Float32Array> {
    const places = Float64Array.from({ length: count + 1 }, (_, i) => this.place(start + i))
    let fastest = 0
    for (let i = 0; i < count; i++) fastest = Math.max(fastest, places[i + 1]! - places[i]!)
    const reach = resampleReach(fastest)
    const first = Math.floor(places[0]!) - reach
    const samples = await this.between(first, Math.ceil(places[count]!) + reach)
    const out = new Float32Array(count * 2)
    for (let i = 0; i < count; i++) {
      const value = resampleAt(samples, places[i]! - first, places[i + 1]! - places[i]!)
      ;[out[i * 2], out[i * 2 + 1]] = value
    }
    return out
  }
}
