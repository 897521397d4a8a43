import {
  cellParams,
  clipEnd,
  fitScale,
  isAnimated,
  mapValues,
  CLIP_DEFAULTS,
  reading,
  snapToFrame,
  sourceOf,
  TICKS_PER_SECOND,
  valueAt,
  type Animated,
  type Asset,
  type Cell,
  type Clip,
  type SingleInput,
  type MediaClip,
  type Params,
  type Point,
  type Project,
} from '@dusk/timeline'
import { boundsOf, outlineOf } from '~/features/timeline/outlines'

/** How long a part takes to come in, and how much later each next one does, in seconds. */
const COMES = 0.7
const LATER = 0.15
/** What a picture in a cell is placed by; the rest of its look is the person's own. */
const PLACED = ['position', 'size', 'stretch', 'rotation', 'anchor', 'cropLeft', 'cropRight', 'cropTop', 'cropBottom']

export interface SplitLook {
  gap: number
  cornerRadius: number
  border: number
  /** Parts come in one after the other, each from its own side. */
  comes: boolean
}

/**
 * Commands that lay pictures out in the cells of a split screen. Cells without a picture become plain ground on tracks
 * of their own in front, to drop footage on.
 * @param clips pictures seen at the same time, from back to front; as many as there are cells, or fewer
 */
export function planSplit(
  project: Project,
  reelId: string,
  clips: readonly Clip[],
  cells: readonly Cell[],
  look: SplitLook,
): SingleInput[] {
  const reel = project.reels[reelId]!
  const { format } = reel
  const cellLook = { gap: look.gap, cornerRadius: look.cornerRadius, border: look.border, borderColour: '#f3ece2' }
  const set = clips.flatMap((clip, i) => {
    const picture = sourceOf(reading(project), clip)?.picture
    if (!picture) return []
    const params = cellParams(cells[i]!, cellLook, picture, format, 'fit' in clip && clip.fit ? clip.fit : reel.fit)
    if (look.comes) params.position = comesIn(params.position as unknown as Point, i, clip.head, format)
    return [{ clipId: clip.id, set: params as never }]
  })
  const commands: SingleInput[] = [{ type: 'setEach', clips: set }]
  const empty = cells.slice(clips.length)
  if (empty.length === 0) return commands
  const start = Math.max(...clips.map((clip) => clip.start))
  const length = Math.min(...clips.map(clipEnd)) - start
  const tracks = empty.map(() => crypto.randomUUID())
  const made = empty.map((cell, n) => {
    const params = cellParams(cell, cellLook, format, format, 'stretch')
    if (look.comes) params.position = comesIn(params.position as unknown as Point, clips.length + n, 0, format)
    return {
      kind: 'generator',
      generator: 'plain',
      settings: {},
      clipId: crypto.randomUUID(),
      trackId: tracks[n]!,
      start,
      length,
      params: params as never,
    } as const
  })
  commands.push({
    type: 'addGenerated',
    mode: 'free',
    newTracks: tracks.map((trackId) => ({ trackId, reelId })),
    generated: made,
  })
  return commands
}

function comesIn(
  [x, y]: Point,
  i: number,
  head: number,
  format: { width: number; height: number; rate: { num: number; den: number } },
): Animated {
  const away: Point =
    Math.abs(x) >= Math.abs(y) ? [x + Math.sign(x || 1) * format.width, y] : [x, y + Math.sign(y) * format.height]
  const at = head + snapToFrame(i * LATER * TICKS_PER_SECOND, format.rate)
  return {
    keys: [
      { at, value: away, ease: 'out' },
      { at: at + Math.round(COMES * TICKS_PER_SECOND), value: [x, y], ease: 'out' },
    ],
  } as Animated
}

/** Whether a clip is a picture in a cell: placed upright and smaller than the frame, or cropped. */
export function isCell(clip: Clip): boolean {
  const { params } = clip
  const cropped = PLACED.slice(5).some((key) => params[key] !== undefined)
  const size = params.size
  return !params.rotation && (cropped || (typeof size === 'number' && size !== 100))
}

/** A number that stays; what changes over time counts as its default. */
const steady = (params: Params, key: string, initial = 0): number => {
  const set = params[key]
  return typeof set === 'number' ? set : initial
}

/** How much of a picture is hidden by its crop, in percent of its width and height. */
export function croppedAway({ params }: Clip): { across: number; down: number } {
  const value = (key: string) => steady(params, key)
  return { across: value('cropLeft') + value('cropRight'), down: value('cropTop') + value('cropBottom') }
}

/**
 * Settings that show another part of a cropped picture in the same place.
 * @param by how far the picture goes under its crop, in reel pixels; it stops at its own edges
 */
export function panned(project: Project, clip: Clip, by: Point): Params {
  const reel = project.reels[project.tracks[clip.trackId]!.reelId]!
  const picture = sourceOf(reading(project), clip)!.picture!
  const scale = fitScale(picture, reel.format, 'fit' in clip && clip.fit ? clip.fit : reel.fit)
  const size = steady(clip.params, 'size', 100) / 100
  const set: Params = {}
  const moved: [number, number] = [0, 0]
  const axes = [
    ['cropLeft', 'cropRight', picture.width * scale[0] * size * (steady(clip.params, 'stretch', 100) / 100)],
    ['cropTop', 'cropBottom', picture.height * scale[1] * size],
  ] as const
  for (const [axis, [first, second, length]] of axes.entries()) {
    const [before, both] = [steady(clip.params, first), steady(clip.params, first) + steady(clip.params, second)]
    if (both < 0.1) continue
    const next = Math.min(Math.max(before - (by[axis]! / length) * 100, 0), both)
    moved[axis] = ((before - next) / 100) * length
    Object.assign(set, { [first]: next, [second]: both - next })
  }
  const old = (clip.params.position ?? [0, 0]) as Animated<Point>
  const shifted = ([x, y]: Point): Point => [x + moved[0], y + moved[1]]
  return { ...set, position: (isAnimated(old) ? mapValues(old, shifted) : shifted(old)) as Animated }
}

/**
 * The command that puts a source in the place of a picture in a cell: as long, where it is, filling the cell; borders,
 * shadows and the way it comes in stay.
 * @returns words when it can't be
 */
export function planIntoCell(
  project: Project,
  clip: Clip,
  asset: Asset,
  from = 0,
  part?: number,
): SingleInput | string {
  const track = project.tracks[clip.trackId]!
  const reel = project.reels[track.reelId]!
  if (!asset.picture) return `${asset.name} has no picture.`
  if (track.locked) return `${track.name} is locked.`
  // Where it stands when it has come in.
  const outline = outlineOf(project, clip, clipEnd(clip) - 1, new Map())
  if (!outline) return 'There is no picture here.'
  const { left, right, top, bottom } = boundsOf(outline)
  const { width, height } = reel.format
  const cell = { x: left / width, y: top / height, width: (right - left) / width, height: (bottom - top) / height }
  const placed = cellParams(
    cell,
    { gap: 0, cornerRadius: 0, border: 0, borderColour: '' },
    asset.picture,
    reel.format,
    reel.fit,
  )
  const kept = Object.fromEntries(Object.entries(clip.params).filter(([key]) => !PLACED.includes(key)))
  const params = {
    ...kept,
    ...Object.fromEntries(PLACED.flatMap((key) => (placed[key] === undefined ? [] : [[key, placed[key]]]))),
  } as Params
  const old = clip.params.position as Animated<Point> | undefined
  if (old !== undefined && isAnimated(old)) {
    const last = valueAt(old, old.keys.at(-1)!.at)
    const now = params.position as unknown as Point
    // Clip time begins anew with the new source.
    const keys = (
      mapValues(old, ([x, y]): Point => [x - last[0] + now[0], y - last[1] + now[1]]) as { keys: { at: number }[] }
    ).keys
    params.position = { keys: keys.map((key) => ({ ...key, at: key.at - clip.head })) } as Animated
  }
  const held = asset.kind === 'still' ? Infinity : (part ?? asset.length - from)
  const fresh: MediaClip = {
    ...CLIP_DEFAULTS,
    kind: 'media',
    id: crypto.randomUUID(),
    trackId: clip.trackId,
    stream: null,
    assetId: asset.id,
    start: clip.start,
    length: Math.min(clip.length, held),
    map: { kind: 'constant', source: from, speed: 1 },
    params: params as MediaClip['params'],
  }
  return { type: 'paste', clips: [fresh], at: clip.start, mode: 'over' }
}
