import { z } from 'zod'
import { CLIP_DEFAULTS, type Clip, type MediaClip, type Take } from '../document/clip'
import { clipEnd } from '../document/query'
import { sourceLength } from '../document/asset'
import { idSchema, ticksSchema } from '../document/values'
import { copyEffects } from '../edit/carry'
import type { Edit } from '../edit/edit'
import { clearRange, openTrack, quantise } from '../edit/lanes'
import { refuse } from '../edit/refuse'
import { reachOf, shiftMap, sourceTimeAt } from '../evaluate/timeMap'
import { defineCommand } from './define'

/** A clip of a recording, or a refusal. */
function recordingOf(edit: Edit, clipId: string): MediaClip & { stream: number } {
  const clip = edit.need('clips', clipId)
  openTrack(edit, clip.trackId)
  if (clip.kind !== 'media' || clip.stream === null)
    return refuse('kind', 'Only a clip of recorded sound has takes.', [clipId])
  return clip as MediaClip & { stream: number }
}

/** A clip without one of its takes; a single one left is no choice. */
export function withoutTake(clip: MediaClip, assetId: string): MediaClip {
  const { takes, ...rest } = clip
  const left = takes?.filter((take) => take.assetId !== assetId) ?? []
  return left.length > 1 ? { ...rest, takes: left } : rest
}

/** A clip with those of its takes that are in this project. */
export function withTakesOf(edit: Edit, clip: Clip): Clip {
  if (clip.kind !== 'media' || !clip.takes) return clip
  return clip.takes
    .filter(({ assetId }) => !edit.get('assets', assetId))
    .reduce((kept, { assetId }) => withoutTake(kept, assetId), clip)
}

/**
 * Plays another take in a clip: it lies where it was recorded, and everything set on the clip stays. Where it is
 * shorter than the clip, the clip is shortened to it.
 */
function play(edit: Edit, clip: MediaClip & { stream: number }, next: Take): void {
  const asset = edit.need('assets', next.assetId)
  if (!asset.sounds[next.stream]) refuse('kind', `${asset.name} has no such sound.`, [asset.id])
  const now = clip.takes!.find((take) => take.assetId === clip.assetId)!
  const map = shiftMap(clip.map, next.source - now.source)
  const track = edit.need('tracks', clip.trackId)
  const moved = { ...clip, assetId: next.assetId, stream: next.stream, map }
  const { before, after } = reachOf(moved, sourceLength(asset, next.stream))
  const start = quantise(edit, track, clip.start - Math.min(0, before))
  const end = quantise(edit, track, clipEnd(clip) + Math.min(0, after))
  if (end <= start) refuse('source', `${asset.name} holds nothing of this stretch.`, [clip.id])
  edit.put('clips', { ...moved, start, length: end - start, head: clip.head + start - clip.start })
}

/** Adds a recording of the same stretch to a clip, and plays it. */
export const addTake = defineCommand({
  schema: z.object({
    type: z.literal('addTake'),
    clipId: idSchema,
    assetId: idSchema,
    stream: z.int().min(0).max(63).default(0),
    /** Reel position of the clip's track at which moment `source` of the recording was made. */
    at: ticksSchema,
    source: ticksSchema.default(0),
  }),
  apply(edit, { clipId, assetId, stream, at, source }) {
    const clip = recordingOf(edit, clipId)
    edit.need('assets', assetId)
    if (clip.map.kind !== 'constant' || clip.map.speed !== 1)
      refuse('speed', 'A clip whose speed was changed takes no further recording.', [clipId])
    const first = { assetId: clip.assetId, stream: clip.stream, source: sourceTimeAt(clip, clip.start) }
    const takes = clip.takes ?? [first]
    if (takes.some((take) => take.assetId === assetId)) refuse('nothing', 'That take is already there.', [clipId])
    const now = takes.find((take) => take.assetId === clip.assetId) ?? first
    // Where the takes' common moment lies in the reel.
    const common = clip.start + now.source - sourceTimeAt(clip, clip.start)
    const take = { assetId, stream, source: source + common - at }
    play(edit, { ...clip, takes: [...takes, take] }, take)
  },
  describe: () => 'Recorded another take',
})

/**
 * Puts a recording where it was made. What lies there on the track gives way for as long as it lasts, and stays as
 * another take of it: settings and effects are those of the clip that reached furthest into the stretch.
 */
export const record = defineCommand({
  schema: z.object({
    type: z.literal('record'),
    clipId: idSchema,
    trackId: idSchema,
    assetId: idSchema,
    stream: z.int().min(0).max(63).default(0),
    start: ticksSchema,
    length: ticksSchema.min(1),
    /** Moment of the recording that is heard at `start`, in ticks. */
    source: ticksSchema,
  }),
  apply(edit, { clipId, trackId, assetId, stream, start, length, source }) {
    const track = openTrack(edit, trackId)
    const asset = edit.need('assets', assetId)
    if (track.kind !== 'sound' || !asset.sounds[stream])
      refuse('kind', `${asset.name} has no such sound to put on ${track.name}.`, [assetId])
    if (edit.get('clips', clipId)) refuse('id', 'That clip is already there.', [clipId])
    const held = sourceLength(asset, stream) - source
    if (held <= 0) refuse('source', `${asset.name} ends before that part begins.`, [assetId])
    const from = quantise(edit, track, start)
    const to = quantise(edit, track, start + Math.min(length, held))
    const within = (clip: Clip) => Math.min(clipEnd(clip), to) - Math.max(clip.start, from)
    const [old] = edit
      .clipsOn(trackId)
      .filter((clip): clip is MediaClip => within(clip) > 0 && clip.kind === 'media')
      .filter(({ map }) => map.kind === 'constant' && map.speed === 1)
      .sort((a, b) => within(b) - within(a))
    const clip: MediaClip = {
      ...CLIP_DEFAULTS,
      ...(old ? { gain: old.gain, params: old.params, label: old.label, note: old.note } : { params: {} }),
      ...{ id: clipId, trackId, kind: 'media', assetId, stream, start: from, length: to - from },
      map: { kind: 'constant', source, speed: 1 },
    }
    if (old) {
      const before = { assetId: old.assetId, stream: old.stream!, source: sourceTimeAt(old, old.start) }
      const takes = old.takes ?? [before]
      const now = takes.find((take) => take.assetId === old.assetId) ?? before
      const common = old.start + now.source - before.source
      clip.takes = [...takes, { assetId, stream, source: source + common - from }]
      copyEffects(edit, 'clip', old.id, clipId)
    }
    clearRange(edit, track, from, to)
    edit.put('clips', clip)
  },
  describe: () => 'Recorded',
})

/** Plays another of a clip's takes. */
export const chooseTake = defineCommand({
  schema: z.object({ type: z.literal('chooseTake'), clipId: idSchema, assetId: idSchema }),
  apply(edit, { clipId, assetId }) {
    const clip = recordingOf(edit, clipId)
    const take = clip.takes?.find((entry) => entry.assetId === assetId)
    if (!take) return refuse('missing', 'That take is no longer there.', [clipId])
    if (clip.assetId === assetId) refuse('nothing', 'That take plays already.', [clipId])
    play(edit, clip, take)
  },
  describe: () => 'Chose another take',
})

/** Takes one of a clip's takes off it; its recording stays in the library. */
export const removeTake = defineCommand({
  schema: z.object({ type: z.literal('removeTake'), clipId: idSchema, assetId: idSchema }),
  apply(edit, { clipId, assetId }) {
    const clip = recordingOf(edit, clipId)
    if (clip.assetId === assetId) refuse('kind', 'That take plays: choose another one first.', [clipId])
    edit.put('clips', withoutTake(clip, assetId))
  },
  describe: () => 'Removed a take',
})
