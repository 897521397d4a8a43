import {
  clipLook,
  FramePlanner,
  invert,
  multiply,
  placeMatrix,
  reading,
  sourceOf,
  trackMatrix,
  type Clip,
  type Matrix,
  type Point,
  type Project,
} from '@dusk/timeline'
import { generatorById, type Rect } from '@dusk/compositor'

/** Where a clip lies on the picture at a moment. */
export interface Outline {
  clip: Clip
  /** What of it is seen, in its own pixels. */
  rect: Rect
  /** From its own pixels to reel pixels. */
  matrix: Matrix
  /** In reel pixels: upper left, upper right, lower right, lower left. */
  corners: readonly [Point, Point, Point, Point]
  /** The point it turns and grows about, in reel pixels. */
  anchor: Point
}

export const at = ([a, b, c, d, e, f]: Matrix, x: number, y: number): Point => [a * x + c * y + e, b * x + d * y + f]

/** Boxes of titles' words by clip, as far as they are known. */
export type WordBoxes = ReadonlyMap<string, Rect>

/** The outline of a clip at a reel position; `null` when it has no picture. */
export function outlineOf(project: Project, clip: Clip, tick: number, words: WordBoxes): Outline | null {
  const track = project.tracks[clip.trackId]
  const reel = track && project.reels[track.reelId]
  const picture = sourceOf(reading(project), clip)?.picture
  if (!track || !reel || !picture || track.kind !== 'picture') return null
  const look = clipLook(clip.params, clip.head + tick - clip.start)
  const made = clip.kind !== 'media' && clip.kind !== 'reel'
  const placed = placeMatrix(look, made ? 'stretch' : (clip.fit ?? reel.fit), picture, reel.format)
  const moved = trackMatrix(track.params, tick, reel.format)
  const matrix = moved ? multiply(moved.matrix, placed) : placed
  const { width: w, height: h } = picture
  let rect: Rect = { x: 0, y: 0, width: w, height: h }
  if (clip.kind === 'title') rect = words.get(clip.id) ?? { x: w / 4, y: h * 0.4, width: w / 2, height: h / 5 }
  else if (clip.kind === 'generator') {
    const kind = generatorById(clip.generator)
    rect = kind.box?.(kind.settings(clip.settings as never), reel.format) ?? rect
  }
  const left = Math.max(rect.x, (w * look.cropLeft) / 100)
  const top = Math.max(rect.y, (h * look.cropTop) / 100)
  const right = Math.min(rect.x + rect.width, w * (1 - look.cropRight / 100))
  const bottom = Math.min(rect.y + rect.height, h * (1 - look.cropBottom / 100))
  // Shapes may reach beyond the frame; only a crop that is set takes something off them.
  if (
    look.cropLeft ||
    look.cropRight ||
    look.cropTop ||
    look.cropBottom ||
    clip.kind === 'media' ||
    clip.kind === 'reel'
  )
    rect = { x: left, y: top, width: Math.max(0, right - left), height: Math.max(0, bottom - top) }
  const { x, y, width, height } = rect
  return {
    clip,
    rect,
    matrix,
    corners: [at(matrix, x, y), at(matrix, x + width, y), at(matrix, x + width, y + height), at(matrix, x, y + height)],
    anchor: at(matrix, (w * look.anchor[0]) / 100, (h * look.anchor[1]) / 100),
  }
}

/** Outlines of everything seen at a reel position, back to front. */
export function outlinesAt(project: Project, reelId: string, tick: number, words: WordBoxes): Outline[] {
  if (!project.reels[reelId]) return []
  return new FramePlanner(project, reelId).clipsAt(tick).flatMap((clip) => outlineOf(project, clip, tick, words) ?? [])
}

/** Whether a point of the reel lies on a clip. */
export function covers(outline: Outline, x: number, y: number): boolean {
  const back = invert(outline.matrix)
  if (!back) return false
  const [u, v] = at(back, x, y)
  const { rect } = outline
  return u >= rect.x && v >= rect.y && u <= rect.x + rect.width && v <= rect.y + rect.height
}

/** The upright box around an outline, in reel pixels. */
export function boundsOf({ corners }: Outline): { left: number; right: number; top: number; bottom: number } {
  const [xs, ys] = [corners.map(([x]) => x), corners.map(([, y]) => y)]
  return { left: Math.min(...xs), right: Math.max(...xs), top: Math.min(...ys), bottom: Math.max(...ys) }
}

/** A line that drags on the picture stick to. */
export interface GuideLine {
  axis: 'x' | 'y'
  at: number
}

/** Edges, thirds and middle of the frame, and edges and middles of other layers. */
export function guideLines(format: { width: number; height: number }, others: readonly Outline[]): GuideLine[] {
  const lines: GuideLine[] = []
  const add = (axis: 'x' | 'y', ...places: number[]) => places.forEach((place) => lines.push({ axis, at: place }))
  const parts = [0, 1 / 3, 1 / 2, 2 / 3, 1]
  add('x', ...parts.map((part) => part * format.width))
  add('y', ...parts.map((part) => part * format.height))
  for (const other of others) {
    const { left, right, top, bottom } = boundsOf(other)
    add('x', left, (left + right) / 2, right)
    add('y', top, (top + bottom) / 2, bottom)
  }
  return lines
}

/** How far a box has to move along an axis for one of its edges or its middle to lie on a line, and on which. */
export function stickTo(
  places: readonly number[],
  lines: readonly GuideLine[],
  axis: 'x' | 'y',
  reach: number,
): { by: number; line: GuideLine } | null {
  let best: { by: number; line: GuideLine } | null = null
  for (const line of lines) {
    if (line.axis !== axis) continue
    for (const place of places) {
      const by = line.at - place
      if (Math.abs(by) <= reach && (!best || Math.abs(by) < Math.abs(best.by))) best = { by, line }
    }
  }
  return best
}
