/** A frame of a source by its number. */
export interface FrameRequest {
  source: string
  frame: number
  /** Its clip plays backwards: the next frame wanted of it is an earlier one. */
  reversed?: boolean
  /**
   * Frames from one that is wanted to the next, for as long as can be seen ahead: what lies between need not come out
   * of the decoder. Asked for when one is opened.
   */
  step?(): number
}

/** Which way the frames that are asked for go: it decides what is decoded along with them. */
export type Direction = 'forward' | 'backward' | 'still'

/** Decodes one source from a frame on, in order. */
export interface RunningDecoder<F> {
  /** Frames from one that it gives to the next; 1 where nothing is said. */
  readonly step?: number
  /** The next frame, or `null` at the source's end. */
  read(): Promise<F | null>
  close(): void
}

/** What a supply needs of whatever decodes: a process, or the browser. */
export interface DecoderBackend<F> {
  /** Begins decoding at a frame. */
  open(request: FrameRequest): RunningDecoder<F>
  /** A single frame without a decoder that goes on, where that is cheaper. */
  single?(request: FrameRequest): Promise<F | null>
  /** First frame of the group of pictures that a frame is decoded with. */
  groupStart(request: FrameRequest): number
  /** Bytes that a frame takes. */
  bytes(frame: F): number
  /** Called once for every frame, when nobody has it any more. */
  release(frame: F): void
  /**
   * Frames of a source that are read away while it plays rather than opening a decoder there, where that is not what
   * {@link SupplyLimits.skip} says: beginning anew costs more the farther keyframes are apart.
   */
  skip?(source: string): number
  /** Its files are whole: where one ends once, it ends always, and is not opened beyond. */
  readonly whole?: boolean
}

export interface SupplyLimits {
  /** Bytes of decoded frames that are kept; never less than what is asked for at once. */
  bytes: number
  /** The same while nothing has gone backwards for {@link CALM} pictures, where less will do. */
  onward?: number
  /** Decoders that are kept open; never less than what is asked for at once. */
  decoders: number
  /** Frames that are read away to reach a wanted one rather than opening a decoder there. */
  skip: number
  /** Pictures after which a decoder that was of no use to any of them is closed; without it only for another one. */
  idle?: number
}

/** Pictures after which nothing is going backwards any more. */
const CALM = 60

interface Lane<F> {
  source: string
  decoder: RunningDecoder<F>
  /** Number of the frame that it began at. */
  first: number
  /** Number of the frame that the next read gives, and how far the one after it is. */
  next: number
  step: number
  /** When it was last of use, by a count of requests. */
  used: number
  /** Reads of one decoder follow each other. */
  reading: Promise<unknown>
  ended: boolean
}

interface Kept<F> {
  frame: F
  bytes: number
  holders: number
}

/** A decoded frame that somebody has; it stays as it is until it is let go. */
export interface HeldFrame<F> {
  readonly frame: F
  /** Names the frame: the same one has the same key. */
  readonly key: string
  /** Gives it back; once. */
  release(): void
}

/** Which way a source's own frames go while the reel goes `direction`. */
function wayOf({ reversed }: FrameRequest, direction: Direction): Direction {
  if (!reversed || direction === 'still') return direction
  return direction === 'forward' ? 'backward' : 'forward'
}

/**
 * Gives decoded frames by number, from as few decoders as will do. One policy for preview and render: decoders run on
 * through a shot, as many as different places are wanted at once; a frame that is being decoded is decoded once however
 * many ask for it; going backwards, a whole group of pictures is decoded once and kept; what is kept is bounded.
 */
export class FrameSupply<F> {
  private lanes: Lane<F>[] = []
  private readonly kept = new Map<string, Kept<F>>()
  private readonly flying = new Map<string, Promise<void>>()
  private readonly last = new Map<string, number>()
  /** From which frame on nothing comes of a whole source, and the last one that does, where that one was seen. */
  private readonly ends = new Map<string, { from: number; last: number | null }>()
  private keptBytes = 0
  private clock = 0
  /** When something last went backwards. */
  private wentBack = -Infinity
  private closed = false

  constructor(
    private readonly backend: DecoderBackend<F>,
    private readonly limits: SupplyLimits,
  ) {}

  /** Bytes of decoded frames held now. */
  get bytes(): number {
    return this.keptBytes
  }

  /** Decoders open now. */
  get decoders(): number {
    return this.lanes.length
  }

  /**
   * The frames of one picture, asked for together. A source that ends before a frame gives its last one.
   * @returns in the order asked; `null` where there is none. The caller releases each.
   */
  async frames(wanted: readonly FrameRequest[], direction: Direction): Promise<(HeldFrame<F> | null)[]> {
    this.clock++
    if (wanted.some((request) => wayOf(request, direction) === 'backward')) this.wentBack = this.clock
    const mine = new Set<Lane<F>>()
    const results = await Promise.allSettled(wanted.map((request) => this.frame(request, direction, mine)))
    const failed = results.find((result) => result.status === 'rejected')
    if (failed) {
      for (const result of results) if (result.status === 'fulfilled') result.value?.release()
      throw failed.reason
    }
    this.trim()
    const { idle = Infinity } = this.limits
    for (const lane of this.lanes) if (this.clock - lane.used > idle) this.drop(lane)
    return results.map((result) => (result as PromiseFulfilledResult<HeldFrame<F> | null>).value)
  }

  /** Opens a decoder for a frame that will be wanted `ahead` frames from now, unless one will be there by itself. */
  expect(wanted: FrameRequest, ahead: number): void {
    const request = this.within(wanted)
    if (!request || this.closed || request.reversed || this.kept.has(keyOf(request))) return
    const comes = this.lanes.some(
      (lane) =>
        lane.source === request.source &&
        !lane.ended &&
        request.frame - lane.next >= -lane.step &&
        (request.frame - lane.next) % lane.step === 0 &&
        request.frame - lane.next <= ahead * lane.step + this.skip(request.source),
    )
    if (!comes) this.open(request, new Set())
  }

  /** Closes every decoder and lets go of what is kept. Frames that somebody holds stay until they are let go. */
  close(): void {
    this.closed = true
    for (const lane of this.lanes) lane.decoder.close()
    this.lanes = []
    for (const [key, entry] of this.kept) {
      this.kept.delete(key)
      this.keptBytes -= entry.bytes
      this.letGo(entry)
    }
  }

  /** The same frame, or the last one where a source is known to end before it; `null` where none of it was seen. */
  private within(request: FrameRequest): FrameRequest | null {
    const end = this.ends.get(request.source)
    if (!end || request.frame < end.from) return request
    return end.last === null ? null : { ...request, frame: end.last }
  }

  /**
   * The last frame of a source, if it is still there. Of a whole one it is what nothing comes after, not what happened
   * to be seen of it.
   */
  private takeLast(source: string): HeldFrame<F> | null {
    const frame = this.backend.whole ? this.ends.get(source)?.last : this.last.get(source)
    return frame === undefined || frame === null ? null : this.take({ source, frame })
  }

  private async frame(wanted: FrameRequest, direction: Direction, mine: Set<Lane<F>>): Promise<HeldFrame<F> | null> {
    const request = this.within(wanted)
    if (!request) return null
    const known = this.take(request)
    if (known) {
      this.touch(request, mine)
      return known
    }
    const key = keyOf(request)
    let flight = this.flying.get(key)
    if (!flight) {
      flight = this.decode(request, direction, mine).finally(() => this.flying.delete(key))
      this.flying.set(key, flight)
      flight.catch(() => {})
    }
    await flight
    if (this.closed) return null
    return this.take(request) ?? this.takeLast(request.source)
  }

  /** A decoder that stands where a kept frame was taken from is not idle. */
  private touch({ source, frame }: FrameRequest, mine: Set<Lane<F>>): void {
    for (const lane of this.lanes)
      if (lane.source === source && Math.abs(lane.next - lane.step - frame) <= this.skip(source)) {
        lane.used = this.clock
        mine.add(lane)
      }
  }

  private async decode(request: FrameRequest, direction: Direction, mine: Set<Lane<F>>): Promise<void> {
    const { source, frame } = request
    let lane = this.laneFor(request, direction === 'still' ? this.limits.skip : this.skip(source))
    if (!lane && direction === 'still' && this.backend.single) {
      const found = await this.backend.single(request)
      if (found) this.keep(request, found)
      return
    }
    const first = wayOf(request, direction) === 'backward' ? Math.min(frame, this.backend.groupStart(request)) : frame
    lane ??= this.open(first === frame ? request : { source, frame: first }, mine)
    lane.used = this.clock
    mine.add(lane)
    const running = lane
    const reading = running.reading.then(() => this.readTo(running, frame, wayOf(request, direction)))
    running.reading = reading.catch(() => {})
    await reading
  }

  private async readTo(lane: Lane<F>, frame: number, direction: Direction): Promise<void> {
    // The last frame that was read away: where the source ends early, it is the one that is held.
    let passed: { at: FrameRequest; frame: F } | null = null
    const forget = () => passed && this.backend.release(passed.frame)
    while (lane.next <= frame && !lane.ended && !this.closed) {
      const at = { source: lane.source, frame: lane.next }
      let found: F | null
      try {
        found = await lane.decoder.read()
      } catch (error) {
        forget()
        this.drop(lane)
        throw error
      }
      if (!found) {
        lane.ended = true
        if (this.backend.whole) this.endsAt(lane)
        if (passed && !this.closed) this.keep(passed.at, passed.frame)
        else forget()
        if (!this.closed) this.drop(lane)
        return
      }
      lane.next += lane.step
      this.last.set(lane.source, Math.max(at.frame, this.last.get(lane.source) ?? 0))
      // Going forward, frames that were passed are not worth keeping; going back, they come next. The one before is
      // kept: reels of a higher rate show it once more.
      const worth = at.frame >= frame - 1 || direction === 'backward'
      if (worth && !this.closed) this.keep(at, found)
      else {
        forget()
        passed = { at, frame: found }
      }
    }
    forget()
  }

  private endsAt({ source, first, next, step }: Lane<F>): void {
    const [seen = -1, known] = [this.last.get(source), this.ends.get(source)]
    if (seen >= next) return
    // One that read none, having begun beyond the end, says only of the frame before it that it is the last.
    const last = seen >= next - (next > first ? step : 1) ? seen : null
    if (!known || next < known.from || (next === known.from && last !== null))
      this.ends.set(source, { from: next, last })
  }

  private skip(source: string): number {
    return this.backend.skip?.(source) ?? this.limits.skip
  }

  /** The decoder that reaches a frame soonest by running on, over so many frames at most. */
  private laneFor({ source, frame }: FrameRequest, most: number): Lane<F> | null {
    let best: Lane<F> | null = null
    for (const lane of this.lanes) {
      const gap = frame - lane.next
      if (lane.source !== source || lane.ended || gap < 0 || gap > most || gap % lane.step) continue
      if (!best || gap < frame - best.next) best = lane
    }
    return best
  }

  private open(request: FrameRequest, mine: ReadonlySet<Lane<F>>): Lane<F> {
    // What is in use for this very picture is never closed for it: nine pictures at once have nine decoders.
    while (this.lanes.length >= this.limits.decoders) {
      const idle = this.lanes.filter((lane) => !mine.has(lane) && lane.used < this.clock)
      if (idle.length === 0) break
      this.drop(idle.reduce((a, b) => (b.used < a.used ? b : a)))
    }
    const decoder = this.backend.open(request)
    const lane: Lane<F> = {
      source: request.source,
      decoder,
      first: request.frame,
      next: request.frame,
      step: decoder.step ?? 1,
      used: this.clock,
      reading: Promise.resolve(),
      ended: false,
    }
    this.lanes.push(lane)
    return lane
  }

  private drop(lane: Lane<F>): void {
    this.lanes = this.lanes.filter((other) => other !== lane)
    lane.decoder.close()
  }

  private keep(request: FrameRequest, frame: F): void {
    const key = keyOf(request)
    const old = this.kept.get(key)
    if (old) return this.backend.release(frame)
    const bytes = this.backend.bytes(frame)
    this.kept.set(key, { frame, bytes, holders: 1 })
    this.keptBytes += bytes
  }

  private take(request: FrameRequest): HeldFrame<F> | null {
    const key = keyOf(request)
    const entry = this.kept.get(key)
    if (!entry) return null
    this.kept.delete(key)
    this.kept.set(key, entry)
    entry.holders++
    let held = true
    return {
      frame: entry.frame,
      key,
      release: () => {
        if (!held) return
        held = false
        this.letGo(entry)
      },
    }
  }

  /** Forgets the frames longest not asked for until what is kept is within its limit. Frames in use count, and stay. */
  private trim(): void {
    const { bytes, onward = bytes } = this.limits
    const most = this.clock - this.wentBack > CALM ? onward : bytes
    for (const [key, entry] of this.kept) {
      if (this.keptBytes <= most) return
      if (entry.holders > 1) continue
      this.kept.delete(key)
      this.keptBytes -= entry.bytes
      this.letGo(entry)
    }
  }

  private letGo(entry: Kept<F>): void {
    if (--entry.holders === 0) this.backend.release(entry.frame)
  }
}

function keyOf({ source, frame }: FrameRequest): string {
  return `${source}/${frame}`
}
