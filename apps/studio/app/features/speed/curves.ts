import type { SpeedEase, SpeedPoint } from '@dusk/timeline'

/** A ready-made way for speed to change along a clip: points by their part of the clip's time. */
export interface SpeedCurve {
  id: string
  name: string
  hint: string
  points: readonly { part: number; speed: number; ease: SpeedEase }[]
}

export const SPEED_CURVES: readonly SpeedCurve[] = [
  {
    id: 'surge',
    name: 'Surge',
    hint: 'Rushes through the middle.',
    points: [
      { part: 0, speed: 1, ease: 'smooth' },
      { part: 0.5, speed: 4, ease: 'smooth' },
      { part: 1, speed: 1, ease: 'smooth' },
    ],
  },
  {
    id: 'linger',
    name: 'Linger',
    hint: 'Holds its breath in the middle.',
    points: [
      { part: 0, speed: 1.4, ease: 'smooth' },
      { part: 0.5, speed: 0.3, ease: 'smooth' },
      { part: 1, speed: 1.4, ease: 'smooth' },
    ],
  },
  {
    id: 'slingshot',
    name: 'Slingshot',
    hint: 'Draws back slowly, then lets go.',
    points: [
      { part: 0, speed: 0.4, ease: 'linear' },
      { part: 0.6, speed: 0.4, ease: 'smooth' },
      { part: 1, speed: 5, ease: 'smooth' },
    ],
  },
  {
    id: 'touchdown',
    name: 'Touchdown',
    hint: 'Comes in fast and settles.',
    points: [
      { part: 0, speed: 5, ease: 'smooth' },
      { part: 0.4, speed: 0.6, ease: 'linear' },
      { part: 1, speed: 0.6, ease: 'linear' },
    ],
  },
  {
    id: 'swell',
    name: 'Swell',
    hint: 'Rises and falls like the sea.',
    points: [
      { part: 0, speed: 1, ease: 'smooth' },
      { part: 0.25, speed: 2, ease: 'smooth' },
      { part: 0.5, speed: 0.6, ease: 'smooth' },
      { part: 0.75, speed: 2, ease: 'smooth' },
      { part: 1, speed: 1, ease: 'smooth' },
    ],
  },
  {
    id: 'oarStroke',
    name: 'Oar stroke',
    hint: 'Pulls and glides, pulls and glides.',
    points: [
      { part: 0, speed: 2.5, ease: 'smooth' },
      { part: 0.33, speed: 0.5, ease: 'hold' },
      { part: 0.5, speed: 2.5, ease: 'smooth' },
      { part: 0.83, speed: 0.5, ease: 'linear' },
      { part: 1, speed: 0.5, ease: 'linear' },
    ],
  },
]

/** Mean speed of a curve over its parts: an ease that is even about its middle comes to the mean of its ends. */
export function meanSpeed(points: SpeedCurve['points']): number {
  let sum = 0
  for (let i = 1; i < points.length; i++) {
    const [a, b] = [points[i - 1]!, points[i]!]
    sum += (b.part - a.part) * (a.ease === 'hold' ? a.speed : (a.speed + b.speed) / 2)
  }
  return sum
}

/**
 * The points of a curve laid along a clip, so that it ends where the same footage does.
 * @param head clip time at which the clip begins
 * @param footage ticks of source that it shows
 */
export function layCurve({ points }: SpeedCurve, head: number, footage: number): SpeedPoint[] {
  const length = footage / meanSpeed(points)
  return points.map(({ part, speed, ease }) => ({ at: Math.round(head + part * length), speed, ease }))
}
