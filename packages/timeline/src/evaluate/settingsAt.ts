import type { GeneratorClip, TitleClip } from '../document/clip'
import type { Title, TitleMove } from '../document/title'
import { valueAt, type Value } from '../params/animated'
import { resolveParams, type Params } from '../params/spec'
import { TITLE_PARAMS } from '../params/titleParams'
import type { TitleMovePlan } from './plan'

/** A number as plans hold it, in steps of 2⁻¹⁶. */
export const grain = (value: number) => Math.round(value * 65_536) / 65_536

/** Settings at a moment, numbers rounded so that they are the same everywhere. */
export function settingsAt(params: Params, time: number): Record<string, Value> {
  return Object.fromEntries(Object.entries(params).map(([key, value]) => [key, rounded(valueAt(value, time))]))
}

/** A value as plans hold it. */
export function rounded(value: Value): Value {
  if (typeof value === 'number') return grain(value)
  return Array.isArray(value) ? [grain(value[0]), grain(value[1])] : value
}

/** Words, looks and moves of a title at a moment. */
export function titleFacts(clip: TitleClip, tick: number) {
  const { title } = clip
  const time = clip.head + tick - clip.start
  const style = (params: Params) =>
    Object.fromEntries(
      Object.entries(resolveParams(TITLE_PARAMS, params, time)).map(([key, value]) => [key, rounded(value)]),
    )
  return {
    kind: 'title' as const,
    text: title.text,
    style: style(title.style),
    runs: title.runs.map((run) => ({ from: run.from, to: run.to, style: settingsAt(run.style, time) })),
    moves: movesAt(title, tick - clip.start, clip.length),
    travel: grain(Math.min(Math.max((tick - clip.start) / clip.length, 0), 1)),
  }
}

/** Moves under way `into` ticks after a title began. What comes and what goes share its time when it is short. */
function movesAt(title: Title, into: number, length: number): TitleMovePlan[] {
  const wanted = (title.in?.length ?? 0) + (title.out?.length ?? 0)
  const fits = wanted > length ? length / wanted : 1
  const plan = (
    phase: TitleMovePlan['phase'],
    { move, unit, order, overlap, settings }: TitleMove,
    progress: number,
  ): TitleMovePlan => ({
    phase,
    move,
    unit,
    order,
    overlap,
    settings: settingsAt(settings, 0),
    progress: grain(progress),
  })
  const moves: TitleMovePlan[] = []
  if (title.during && title.during.length > 0) moves.push(plan('during', title.during, into / title.during.length))
  if (title.in) {
    const takes = title.in.length * fits
    if (into < takes) moves.push(plan('in', title.in, Math.max(0, into / takes)))
  }
  if (title.out) {
    const takes = title.out.length * fits
    if (length - into < takes) moves.push(plan('out', title.out, Math.min(1, 1 - (length - into) / takes)))
  }
  return moves
}

/** Which picture is made, with its settings at a moment. */
export function generatorFacts(clip: GeneratorClip, tick: number) {
  const time = clip.head + tick - clip.start
  return {
    kind: 'generator' as const,
    generator: clip.generator,
    settings: settingsAt(clip.settings, time),
    time,
    length: clip.length,
  }
}
