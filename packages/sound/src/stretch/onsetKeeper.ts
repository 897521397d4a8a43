import { onsets } from './onsets'

/** Samples of an onset that are kept as they were, before and after it, and over which they pass into the rest. */
const LEAD = 240
const KEPT = 960
const PASSING = 96
/** Samples within which the time that is lost or won at an onset is made up for. */
const MADE_UP = 9600

/** Samples of source beyond what is asked for that have to be given, so that the ends know their onsets. */
export const ONSET_REACH = LEAD + KEPT + MADE_UP

/** An onset: its place in the source, where it is heard, and how much about it is left as it was. */
interface KeptOnset {
  at: number
  lands: number
  lead: number
  kept: number
}

/** A run of output that holds no onset, and the part of the source it may be made from. */
export interface Run {
  /** First output sample and the one after the last. */
  from: number
  to: number
  /** Places in the source: nothing outside may be heard in it. */
  low: number
  high: number
}

/**
 * Leaves the onsets of a sound as they were when it is stretched: repeating or leaving out whole periods smears and
 * doubles what has none. About an onset the sound runs at its own speed and is the source's; the rest makes up for
 * that, and is stretched in runs that never see an onset.
 */
export class OnsetKeeper {
  private readonly found: KeptOnset[]

  /**
   * @param source interleaved stereo
   * @param zero place of the source's first sample
   * @param from first output sample
   * @param to the output sample after the last
   * @param nominal source place at an output sample, rising
   */
  constructor(
    private readonly source: Float32Array,
    private readonly zero: number,
    from: number,
    to: number,
    private readonly nominal: (output: number) => number,
  ) {
    const all = onsets(source, zero).map((at) => ({ at: zero + at, lands: this.landing(zero + at, from, to) }))
    this.found = all.map(({ at, lands }, i) => {
      // Where onsets crowd, some of the time between them has to be left for making up.
      const [before, after] = [lands - (all[i - 1]?.lands ?? -Infinity), (all[i + 1]?.lands ?? Infinity) - lands]
      return { at, lands, lead: Math.min(LEAD, Math.floor(before / 4)), kept: Math.min(KEPT, Math.floor(after / 4)) }
    })
  }

  /** Source place at an output sample, with the onsets at their own speed. */
  place(output: number): number {
    const nominal = this.nominal(output)
    const { found } = this
    let [low, high] = [0, found.length]
    while (low < high) {
      const middle = (low + high) >> 1
      if (found[middle]!.lands - found[middle]!.lead > output) high = middle
      else low = middle + 1
    }
    const [last, next] = [found[low - 1], found[low]]
    if (last && output <= last.lands + last.kept) return last.at + output - last.lands
    let off = 0
    const room = (next ? next.lands - next.lead : Infinity) - (last ? last.lands + last.kept : -Infinity)
    const over = Math.min(MADE_UP, room)
    if (last) {
      const ends = last.lands + last.kept
      off += (last.at + last.kept - this.nominal(ends)) * Math.max(0, 1 - (output - ends) / over)
    }
    if (next) {
      const begins = next.lands - next.lead
      off += (next.at - next.lead - this.nominal(begins)) * Math.max(0, 1 - (begins - output) / over)
    }
    return nominal + off
  }

  /** The runs between onsets from an output sample to another. */
  runs(from: number, to: number): Run[] {
    const runs: Run[] = []
    let run: Run = { from, to, low: -Infinity, high: Infinity }
    for (const { at, lands, lead, kept } of this.found) {
      const [begins, ends] = [lands - lead, lands + kept]
      if (ends <= from) run = { ...run, low: at + kept - PASSING }
      else if (begins >= to) {
        run.high = at
        break
      } else {
        runs.push({ ...run, to: Math.min(to, begins + PASSING), high: at })
        run = { from: Math.max(from, ends - PASSING), to, low: at + kept - PASSING, high: Infinity }
      }
    }
    return [...runs, run].filter((one) => one.from < one.to)
  }

  /**
   * The samples about onsets, as they were.
   * @param made interleaved stereo, holding the runs
   * @param from output sample that it begins with
   */
  restore(made: Float32Array, from: number): void {
    const { source, zero } = this
    for (const { at, lands, lead, kept } of this.found)
      for (let k = -lead; k < kept; k++) {
        const [o, s] = [(lands + k - from) * 2, (at - zero + k) * 2]
        if (o < 0 || o + 1 >= made.length || s < 0 || s + 1 >= source.length) continue
        const share = Math.min(1, (k + lead + 1) / PASSING, (kept - k) / PASSING)
        made[o] = made[o]! * (1 - share) + source[s]! * share
        made[o + 1] = made[o + 1]! * (1 - share) + source[s + 1]! * share
      }
  }

  /** Where the first onset from an output sample on begins, with what is kept before it. */
  firstAfter(from: number): number {
    const next = this.found.find(({ lands, kept }) => lands + kept > from)
    return next ? next.lands - next.lead : Infinity
  }

  /** The output sample at which a place of the source is heard; beyond either end where it is not. */
  private landing(wanted: number, from: number, to: number): number {
    let [low, high] = [from - ONSET_REACH, to + ONSET_REACH]
    while (low < high) {
      const middle = Math.floor((low + high) / 2)
      if (this.nominal(middle) < wanted) low = middle + 1
      else high = middle
    }
    return low
  }
}
