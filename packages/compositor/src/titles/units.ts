import type { TitleMovePlan } from '@dusk/timeline'
import { hash } from '../transitions/maths'

/** A part of a title's text that moves by itself, half-open. */
export interface Unit {
  from: number
  to: number
}

/** Most parts that move by themselves; a longer title moves by larger ones. */
export const MOST_UNITS = 300

/** Letters as a person counts them: a base with its marks, an emoji with its joins, is one. */
function letters(text: string): Unit[] {
  const units: Unit[] = []
  // Marks, joiners, variation signs and what follows a joiner belong to the letter before.
  const letter = /\p{Regional_Indicator}{2}|\P{M}(?:\p{M}|\u200d|\ufe0f|(?<=\u200d)\P{M}|[\u{1f3fb}-\u{1f3ff}])*/gsu
  for (const match of text.matchAll(letter))
    if (match[0].trim()) units.push({ from: match.index, to: match.index + match[0].length })
  return units
}

function words(text: string): Unit[] {
  return [...text.matchAll(/\S+/g)].map((match) => ({ from: match.index, to: match.index + match[0].length }))
}

/** A title's text in parts. `lines` are the lines as they were set. Empty parts are left out. */
export function unitsOf(text: string, unit: TitleMovePlan['unit'], lines: readonly Unit[]): Unit[] {
  const whole = [{ from: 0, to: text.length }]
  if (unit === 'whole') return whole
  const found =
    unit === 'letter'
      ? letters(text)
      : unit === 'word'
        ? words(text)
        : lines.filter(({ from, to }) => text.slice(from, to).trim())
  if (found.length <= MOST_UNITS) return found.length > 0 ? found : whole
  return unit === 'letter' ? unitsOf(text, 'word', lines) : unit === 'word' ? unitsOf(text, 'line', lines) : whole
}

/** The turn of each part when parts go one after the other: 0 is first. */
export function ranks(count: number, order: TitleMovePlan['order']): number[] {
  const indices = Array.from({ length: count }, (_, i) => i)
  const middle = (count - 1) / 2
  const value = {
    forward: (i: number) => i,
    backward: (i: number) => -i,
    outward: (i: number) => Math.abs(i - middle) + i * 1e-6,
    inward: (i: number) => -Math.abs(i - middle) + i * 1e-6,
    random: (i: number) => hash(i, count, 17),
  }[order]
  const sorted = [...indices].sort((a, b) => value(a) - value(b))
  const rank = new Array<number>(count)
  sorted.forEach((index, place) => (rank[index] = place))
  return rank
}

/**
 * How far a part's own move is, 0 to 1, when all of them together are at `progress`.
 * @param overlap 0: each begins when the one before has ended; 100: all at once
 */
export function unitProgress(progress: number, rank: number, count: number, overlap: number): number {
  const step = 1 - Math.min(100, Math.max(0, overlap)) / 100
  const takes = 1 / (1 + (count - 1) * step)
  return Math.min(1, Math.max(0, (progress - rank * step * takes) / takes))
}
