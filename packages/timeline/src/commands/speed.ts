import { z } from 'zod'
import type { Mask } from '../document/mask'
import { clipName } from '../document/source'
import { SPEED_LIMITS, speedPointSchema, speedSchema, type Clip, type ClipBase, type TimeMap } from '../document/clip'
import { clipEnd } from '../document/query'
import { idSchema, ticksSchema } from '../document/values'
import type { Edit } from '../edit/edit'
import { closeRange, grainOf, leadTrack, linkedClips, openGap, quantise, scopeSchema, splitClips } from '../edit/lanes'
import { refuse } from '../edit/refuse'
import { clipSourceRange, clipTimeAt, isBackwards, mapTime, scaleMap } from '../evaluate/timeMap'
import { isAnimated } from '../params/animated'
import type { Params } from '../params/spec'
import { count, defineCommand } from './define'

/** What becomes of the clips behind one that gets longer or shorter: they move, or it covers or leaves what it may. */
const roomSchema = z.enum(['ripple', 'keep']).default('ripple')

/** Keyframes where they are when all of a clip plays `factor` times as fast. */
function scaleKeys(params: Params, factor: number): Params {
  return Object.fromEntries(
    Object.entries(params).map(([key, value]) => {
      if (!isAnimated(value)) return [key, value]
      const seen = new Set<number>()
      const keys = value.keys
        .map((entry) => ({ ...entry, at: Math.round(entry.at / factor) }))
        .filter(({ at }) => !seen.has(at) && seen.add(at))
      return [key, { keys }]
    }),
  )
}

/** The highest speed that a map reaches, without its direction. */
const fastest = (map: TimeMap): number =>
  map.kind === 'constant' ? Math.abs(map.speed) : map.kind === 'ramp' ? Math.max(...map.points.map((p) => p.speed)) : 0
const slowest = (map: TimeMap): number =>
  map.kind === 'constant' ? Math.abs(map.speed) : map.kind === 'ramp' ? Math.min(...map.points.map((p) => p.speed)) : 0

/** Gives a clip another map, and makes room or closes what is left; markers and effects keep their moments. */
function retime(
  edit: Edit,
  clips: readonly Clip[],
  next: (clip: Clip) => Partial<ClipBase>,
  room: 'ripple' | 'keep',
  scope: z.infer<typeof scopeSchema>,
  anchor: 'start' | 'end' = 'start',
): void {
  const lead = clips.find((clip) => edit.need('tracks', clip.trackId).kind === 'picture') ?? clips[0]!
  const track = leadTrack(edit, clips)
  const changes = new Map(clips.map((clip) => [clip.id, next(clip)]))
  const length = changes.get(lead.id)!.length ?? lead.length
  const more = length - lead.length
  if (anchor === 'end') {
    for (const clip of clips) {
      const own = edit.need('tracks', clip.trackId)
      const lane = edit.clipsOn(clip.trackId)
      const floor = lane.reduce((end, other) => (other.start < clip.start ? Math.max(end, clipEnd(other)) : end), 0)
      const start = Math.max(floor, quantise(edit, own, clipEnd(clip) - (changes.get(clip.id)!.length ?? clip.length)))
      edit.patchClip(clip.id, { ...changes.get(clip.id)!, start, length: clipEnd(clip) - start })
    }
    return
  }
  if (room === 'ripple' && more > 0) openGap(edit, track, clipEnd(lead), more, scope)
  for (const clip of clips) {
    const change = changes.get(clip.id)!
    const own = edit.need('tracks', clip.trackId)
    const end = quantise(edit, own, clip.start + (change.length ?? clip.length))
    const neighbour = edit.clipsOn(clip.trackId).find((other) => other.start >= clipEnd(clip) && other.id !== clip.id)
    const limit = neighbour?.start ?? Infinity
    const held = Math.max(grainOf(edit, own), Math.round(Math.min(end, limit) - clip.start))
    edit.patchClip(clip.id, { ...change, length: held })
  }
  if (room === 'ripple' && more < 0) closeRange(edit, track, lead.start + length, clipEnd(lead), scope)
}

/** A mask whose keyframes come `factor` times as soon. */
const scaleMask = ({ shapes }: Mask, factor: number): Mask => ({
  shapes: shapes.map((shape) => ({
    ...shape,
    settings: scaleKeys(shape.settings, factor),
    ...(shape.path ? { path: shape.path.map((key) => ({ ...key, at: Math.round(key.at / factor) })) } : {}),
  })),
})

/** Moves what is kept in clip time along when a clip plays `factor` times as fast. */
function scaled(edit: Edit, clip: Clip, factor: number): Partial<ClipBase> {
  for (const marker of [...edit.all('markers')])
    if (marker.clipId === clip.id)
      edit.put('markers', {
        ...marker,
        at: Math.round(marker.at / factor),
        length: Math.round(marker.length / factor),
      })
  for (const effect of [...edit.all('effects')])
    if (effect.ownerId === clip.id)
      edit.put('effects', {
        ...effect,
        settings: scaleKeys(effect.settings, factor),
        ...(effect.mask ? { mask: scaleMask(effect.mask, factor) } : {}),
      })
  return {
    map: scaleMap(clip.map, factor),
    head: Math.round(clip.head / factor),
    sync: Math.round(clip.sync / factor),
    params: scaleKeys(clip.params, factor),
  }
}

/** The same stretch of source, the other way round. */
function turned(clip: Clip, change: Partial<ClipBase>, length: number): Partial<ClipBase> {
  const map = change.map ?? clip.map
  const head = change.head ?? clip.head
  if (map.kind === 'freeze') return change
  // What was shown last is shown first: the map is mirrored about the middle of the clip.
  const last = mapTime(map, head + length)
  if (map.kind === 'constant') {
    const speed = -map.speed
    return { ...change, map: { ...map, speed, source: Math.round(last - head * speed) } }
  }
  const points = map.points
    .map((point, i) => ({ ...point, at: 2 * head + length - point.at, ease: map.points[i - 1]?.ease ?? 'linear' }))
    .reverse()
  const mirrored: TimeMap = { ...map, points, backwards: !map.backwards, source: 0 }
  return { ...change, map: { ...mirrored, source: last - mapTime(mirrored, head) } }
}

/**
 * Plays clips at another speed, by factor or by wished length, forwards or backwards. What they show stays the same
 * stretch of their source; linked sound goes along.
 */
export const setSpeed = defineCommand({
  schema: z.object({
    type: z.literal('setSpeed'),
    clipIds: z.array(idSchema).min(1).max(2000),
    /** Factor of the source's own speed; the sign is the direction. */
    speed: speedSchema.optional(),
    /** Wished length in ticks; the speed follows from it. */
    length: ticksSchema.min(1).optional(),
    /** Turns them round, at the speed they have. */
    reverse: z.boolean().default(false),
    /** Which end stays where it is. */
    anchor: z.enum(['start', 'end']).default('start'),
    room: roomSchema,
    scope: scopeSchema.default('unlocked'),
    linked: z.boolean().default(true),
  }),
  apply(edit, { clipIds, speed, length, reverse, anchor, room, scope, linked }) {
    if (speed === undefined && length === undefined && !reverse) refuse('nothing', 'No speed was given.')
    const done = new Set<string>()
    for (const id of clipIds) {
      if (done.has(id)) continue
      const lead = edit.need('clips', id)
      const clips = linkedClips(edit, [id], linked)
      clips.forEach((clip) => done.add(clip.id))
      for (const clip of clips) {
        if (clip.map.kind === 'freeze')
          refuse('kind', 'A frozen frame has no speed. Change its length instead.', [clip.id])
        if (clip.kind !== 'media' && clip.kind !== 'reel')
          refuse('kind', 'Only footage, sounds and nested reels have a speed.', [clip.id])
      }
      const average = (clip: Clip) => (clipSourceRange(clip).to - clipSourceRange(clip).from) / clip.length
      const factor =
        speed !== undefined
          ? Math.abs(speed) / (lead.map.kind === 'constant' ? Math.abs(lead.map.speed) : average(lead))
          : length !== undefined
            ? lead.length / length
            : 1
      const flip = reverse || (speed !== undefined && speed < 0 !== isBackwards(lead.map))
      retime(
        edit,
        clips,
        (clip) => {
          // A still plays on at any speed.
          const asset = clip.kind === 'media' ? edit.get('assets', clip.assetId) : undefined
          if (asset?.kind === 'still') return length === undefined ? {} : { length }
          if (
            fastest(clip.map) * factor > SPEED_LIMITS.max * 1.0001 ||
            slowest(clip.map) * factor < SPEED_LIMITS.min * 0.9999
          )
            refuse('limit', `${clipName(edit, clip)} would not be between 0.05 and 100 times its speed.`, [clip.id])
          const wanted = length !== undefined ? length : Math.max(1, Math.round(clip.length / factor))
          const change = factor === 1 ? {} : scaled(edit, clip, factor)
          // An exact factor that was typed is kept as it was typed.
          if (speed !== undefined && clip.map.kind === 'constant' && change.map?.kind === 'constant')
            change.map = { ...change.map, speed: Math.sign(change.map.speed) * Math.abs(speed) }
          return { ...(flip ? turned(clip, change, wanted) : change), length: wanted }
        },
        room,
        scope,
        anchor,
      )
    }
  },
  describe: ({ clipIds, speed, reverse }) =>
    reverse && speed === undefined
      ? `Turned ${count(clipIds.length, 'clip')} round`
      : `Changed the speed of ${count(clipIds.length, 'clip')}`,
})

/** Lets a clip's speed change along a curve; what it shows begins where it began, and its length follows the curve. */
export const setSpeedCurve = defineCommand({
  schema: z.object({
    type: z.literal('setSpeedCurve'),
    clipId: idSchema,
    /** Points in clip time; none goes back to one speed for all. */
    points: z.array(speedPointSchema).max(200),
    room: roomSchema,
    scope: scopeSchema.default('unlocked'),
    linked: z.boolean().default(true),
  }),
  apply(edit, { clipId, points, room, scope, linked }) {
    const clips = linkedClips(edit, [clipId], linked)
    const sorted = [...points].sort((a, b) => a.at - b.at)
    if (sorted.some((point, i) => i > 0 && point.at === sorted[i - 1]!.at))
      refuse('setting', 'Two points of a speed curve can’t lie at the same time.', [clipId])
    retime(
      edit,
      clips,
      (clip) => {
        if (clip.map.kind === 'freeze') refuse('kind', 'A frozen frame has no speed.', [clip.id])
        if (clip.kind !== 'media' && clip.kind !== 'reel')
          refuse('kind', 'Only footage, sounds and nested reels have a speed.', [clip.id])
        const { from, to } = clipSourceRange(clip)
        const backwards = isBackwards(clip.map)
        const first = mapTime(clip.map, clip.head)
        const map: TimeMap =
          sorted.length > 0
            ? { kind: 'ramp', source: 0, backwards, points: sorted }
            : { kind: 'constant', source: 0, speed: ((to - from) / clip.length) * (backwards ? -1 : 1) }
        const placed = { ...map, source: first - mapTime(map, clip.head) }
        const end = clipTimeAt(placed, backwards ? from : to)!
        return { map: placed, length: Math.max(1, end - clip.head) }
      },
      room,
      scope,
    )
  },
  describe: ({ points }) => (points.length > 0 ? 'Changed a speed curve' : 'Removed a speed curve'),
})

/** Gives a part of a clip another speed: it is cut out of the clip, and what comes later makes room. */
export const setPartSpeed = defineCommand({
  schema: z.object({
    type: z.literal('setPartSpeed'),
    clipId: idSchema,
    /** Reel positions in ticks. */
    from: ticksSchema,
    to: ticksSchema,
    speed: speedSchema,
    scope: scopeSchema.default('unlocked'),
    linked: z.boolean().default(true),
  }),
  apply(edit, { clipId, from, to, speed, scope, linked }) {
    const clip = edit.need('clips', clipId)
    if (from >= clipEnd(clip) || to <= clip.start || to <= from)
      refuse('nothing', 'The marked part lies beside this clip.', [clipId])
    const group = linkedClips(edit, [clipId], linked)
    let part = clipId
    if (from > clip.start) part = splitClips(edit, group, from).get(clipId) ?? clipId
    const rest = edit.need('clips', part)
    if (to < clipEnd(rest)) splitClips(edit, linkedClips(edit, [part], linked), to)
    setSpeed.apply(edit, {
      ...{ type: 'setSpeed', clipIds: [part], speed, reverse: false, anchor: 'start', room: 'ripple' },
      ...{ scope, linked },
    } as Parameters<typeof setSpeed.apply>[1])
  },
  describe: () => 'Changed the speed of a part of a clip',
})
