import { sourceLimits } from './trimLimits'
import type { Clip } from '../document/clip'
import { clipEnd } from '../document/query'
import { snapToFrame, snapToSample, TICKS_PER_SAMPLE, ticksPerFrame, type Rate } from '../time/ticks'
import type { Edit } from '../edit/edit'

/** Where a picture began and ended, and where it does now. */
interface Edges {
  start: readonly [before: number, now: number]
  end: readonly [before: number, now: number]
}

/**
 * Puts the clips of a reel on the grid of another frame rate: each picture's edges on the nearest frames, and edges of
 * sounds that lay where those of their pictures did along with them. What is seen and heard at a time stays the same.
 */
export function regrid(edit: Edit, reelId: string, old: Rate, rate: Rate): void {
  const lanes = [...edit.all('tracks')].filter((track) => track.reelId === reelId)
  const edges = new Map<string, Edges>()
  for (const track of lanes) if (track.kind === 'picture') snapLane(edit, track.id, old, rate, edges)
  for (const track of lanes) if (track.kind === 'sound') followEdges(edit, track.id, edges)
}

/** Moves the edges of a clip; what it shows at a time stays. */
function recut(edit: Edit, clip: Clip, start: number, end: number): void {
  if (start !== clip.start || end !== clipEnd(clip))
    edit.patchClip(clip.id, { start, length: end - start, head: clip.head + start - clip.start })
}

/** Neighbours that touched still touch, and one frame stays as long as it was, wherever its edges fall. */
function snapLane(edit: Edit, trackId: string, old: Rate, rate: Rate, edges: Map<string, Edges>): void {
  let [before, now] = [-1, 0]
  for (const clip of [...edit.clipsOn(trackId)]) {
    const start = clip.start === before ? now : Math.max(snapToFrame(clip.start, rate), now)
    const frame = ticksPerFrame(rate)
    const framesFrom = (count: number) => snapToFrame(start + Math.max(1, count) * frame, rate)
    // About one frame of either rate.
    const single = clip.length < Math.max(ticksPerFrame(old), frame) * 1.5
    const end = single
      ? framesFrom(Math.round(clip.length / frame))
      : Math.max(snapToFrame(clipEnd(clip), rate), framesFrom(1))
    if (clip.link) edges.set(clip.link, { start: [clip.start, start], end: [clipEnd(clip), end] })
    ;[before, now] = [clipEnd(clip), end]
    recut(edit, clip, start, end)
  }
}

function followEdges(edit: Edit, trackId: string, edges: ReadonlyMap<string, Edges>): void {
  const lane = [...edit.clipsOn(trackId)]
  const places = lane.map((clip) => {
    const picture = clip.link ? edges.get(clip.link) : undefined
    const along = (at: number, [before, after]: Edges['start']) =>
      Math.abs(at - before) < TICKS_PER_SAMPLE ? snapToSample(after) : at
    const start = picture ? along(clip.start, picture.start) : clip.start
    const end = picture ? along(clipEnd(clip), picture.end) : clipEnd(clip)
    // A sound has no more than its source holds.
    const [least, most] = [sourceLimits(edit, clip, 'start').min, sourceLimits(edit, clip, 'end').max]
    const held = { start: Math.max(start, least, 0), end: Math.min(end, most) }
    return held.end > held.start ? held : { start: clip.start, end: clipEnd(clip) }
  })
  for (const [i, clip] of lane.entries()) {
    const { start, end } = places[i]!
    const next = places[i + 1]
    // Whoever comes later keeps its beginning; with no room left this one gives up none of its own.
    if (next && end > next.start) {
      if (next.start > start) places[i]!.end = next.start
      else next.start = end
    }
    recut(edit, clip, start, places[i]!.end)
  }
}
