import { snapToSample, type Animated, type Clip, type Key } from '@dusk/timeline'
import type { SoundPreferences } from '~~/shared/preferences'

const MILLISECOND = 705_600

/** A stretch of the reel in ticks. */
export interface Span {
  from: number
  to: number
}

/** Stretches that lie no farther apart than `gap` ticks, joined. */
export function joinSpans(spans: readonly Span[], gap: number): Span[] {
  const joined: Span[] = []
  for (const span of [...spans].sort((a, b) => a.from - b.from)) {
    const last = joined.at(-1)
    if (last && span.from - last.to <= gap) last.to = Math.max(last.to, span.to)
    else joined.push({ ...span })
  }
  return joined
}

/**
 * The level line of a clip of music that gives way while somebody speaks: down by `amount` before the first word, up
 * again some time after the last. Pauses too short to come up and go down again in are passed over.
 * @returns a plain 0 where nobody speaks during the clip
 */
export function duckLine(
  clip: Pick<Clip, 'start' | 'length' | 'head'>,
  spoken: readonly Span[],
  { amount, attack, hold, release }: SoundPreferences['duck'],
): Animated<number> {
  const [down, stay, up] = [attack * MILLISECOND, hold * MILLISECOND, release * MILLISECOND]
  const end = clip.start + clip.length
  const spans = joinSpans(
    spoken.map(({ from, to }) => ({ from, to: to + stay })),
    down + up,
  ).filter(({ from, to }) => to + up > clip.start && from - down < end)
  if (spans.length === 0) return 0
  const keys = new Map<number, Key<number>>()
  const put = (at: number, value: number) => {
    const time = snapToSample(
      Math.min(Math.max(at, clip.start - 10 * MILLISECOND), end + 10 * MILLISECOND) - clip.start + clip.head,
    )
    keys.set(time, { at: time, value, ease: 'both' })
  }
  for (const { from, to } of spans) {
    put(from - down, 0)
    put(from, -amount)
    put(to, -amount)
    put(to + up, 0)
  }
  return { keys: [...keys.values()].sort((a, b) => a.at - b.at) }
}
