import { frameToTicks, ticksPerFrame, type Rate } from '@dusk/timeline'

/**
 * The next or previous of some places from where the playhead is, on the grid that the playhead moves on: sounds begin
 * and markers lie between frames, and a place that rounds to where it is already would never be got past.
 * @returns ticks at the start of a frame, or `null` when there is none on that side
 */
export function nextPlace(places: Iterable<number>, now: number, direction: 1 | -1, rate: Rate): number | null {
  const frameOf = (ticks: number) => Math.round(ticks / ticksPerFrame(rate))
  const here = frameOf(now)
  let best: number | null = null
  for (const place of places) {
    const frame = frameOf(place)
    if (direction > 0 ? frame <= here : frame >= here) continue
    if (best === null || (direction > 0 ? frame < best : frame > best)) best = frame
  }
  return best === null ? null : frameToTicks(best, rate)
}
