import { z } from 'zod'
import { clipBaseSchema, CLIP_DEFAULTS, type Clip } from '../document/clip'
import { clipEnd } from '../document/query'
import { sourceOf } from '../document/source'
import { idSchema, ticksSchema } from '../document/values'
import type { Edit } from '../edit/edit'
import { clearRange, grainOf, leadTrack, leastRest, openGap, openTrack, quantise, sliceClip } from '../edit/lanes'
import { refuse } from '../edit/refuse'
import { count, defineCommand } from './define'
import { sourceLimits } from './trimLimits'

/**
 * What happens to clips in the way: nothing may be in the way; later clips move by the whole length; those that begin
 * within it are pushed, and all later ones with them, by what overlaps; or what lies beneath is covered.
 */
export const placeModeSchema = z.enum(['free', 'insert', 'push', 'over'])
export type PlaceMode = z.infer<typeof placeModeSchema>

/** A stretch of a source, or of another reel, to put on a track: one of `assetId` and `nestedId` is given. */
export const pieceSchema = z.object({
  clipId: idSchema,
  trackId: idSchema,
  assetId: idSchema.optional(),
  nestedId: idSchema.optional(),
  stream: clipBaseSchema.shape.stream,
  start: ticksSchema,
  length: ticksSchema.min(1),
  /** Source position of the first frame, in ticks. */
  source: ticksSchema,
  link: idSchema.nullable(),
  gain: clipBaseSchema.shape.gain.default(0),
})
export type Piece = z.input<typeof pieceSchema>

export function pieceToClip(edit: Edit, piece: z.infer<typeof pieceSchema>): Clip {
  const track = openTrack(edit, piece.trackId)
  if ((piece.assetId === undefined) === (piece.nestedId === undefined))
    return refuse('kind', 'A clip plays either a source or a reel.', [piece.clipId])
  const { assetId, nestedId } = piece
  if (assetId) edit.need('assets', assetId)
  if (nestedId) {
    edit.need('reels', nestedId)
  }
  if (edit.get('clips', piece.clipId)) refuse('id', 'That clip is already there.', [piece.clipId])
  const base = {
    ...CLIP_DEFAULTS,
    params: {},
    id: piece.clipId,
    trackId: track.id,
    stream: piece.stream,
    start: quantise(edit, track, piece.start),
    length: piece.length,
    map: { kind: 'constant' as const, source: piece.source, speed: 1 },
    link: piece.link,
    gain: piece.gain,
  }
  const clip: Clip = assetId ? { ...base, kind: 'media', assetId } : { ...base, kind: 'reel', nestedId: nestedId! }
  const source = sourceOf(edit, clip)!
  if (track.kind === 'picture' && (!source.picture || piece.stream !== null))
    refuse('kind', `${source.name} has no picture to put on ${track.name}.`, [assetId ?? nestedId!])
  if (track.kind === 'sound' && (piece.stream === null || !source.sounds[piece.stream]))
    refuse('kind', `${source.name} has no such sound to put on ${track.name}.`, [assetId ?? nestedId!])
  // A part that asks for more than its source holds ends with it.
  const left = source.length - piece.source
  if (left <= 0) refuse('source', `${source.name} ends before that part begins.`, [assetId ?? nestedId!])
  const end = quantise(edit, track, piece.start + Math.min(piece.length, left))
  if (end <= clip.start) refuse('length', 'A clip has to be at least one frame long.', [piece.clipId])
  return { ...clip, length: end - clip.start }
}

/** Puts clips on tracks. With `insert`, everything later in the reel makes room once for all of them. */
export const place = defineCommand({
  schema: z.object({
    type: z.literal('place'),
    pieces: z.array(pieceSchema).min(1).max(2000),
    mode: placeModeSchema,
  }),
  apply(edit, { pieces, mode }) {
    const clips = pieces.map((piece) => pieceToClip(edit, piece))
    if (new Set(clips.map((clip) => clip.id)).size < clips.length) refuse('id', 'Two of these clips have the same id.')
    putClips(edit, clips, mode)
  },
  describe: ({ pieces, mode }) =>
    `${{ free: 'Placed', insert: 'Inserted', push: 'Placed', over: 'Laid over' }[mode]} ` +
    `${count(new Set(pieces.map((p) => p.link ?? p.clipId)).size, 'clip')}`,
})

/**
 * Shortens a linked clip that runs on past its picture's cut, by a split edit, into what was inserted at that cut. What
 * followed it begins with its own picture again, so that no silence is left where nobody asked for it.
 */
function giveWay(edit: Edit, inserted: Clip, own: ReadonlySet<string>): void {
  const { start } = inserted
  const over = edit
    .clipsOn(inserted.trackId)
    .find((clip) => !own.has(clip.id) && clip.link && clip.start < start && clipEnd(clip) > start)
  if (!over) return
  const overhang = clipEnd(over) - start
  edit.patchClip(over.id, sliceClip(over, over.start, start))
  const next = edit.clipsOn(inserted.trackId).find((clip) => !own.has(clip.id) && clip.start >= start)
  if (!next?.link) return
  const picture = edit.linkedTo(next.link).find((clip) => edit.need('tracks', clip.trackId).kind === 'picture')
  if (!picture || next.start - overhang !== quantise(edit, edit.need('tracks', next.trackId), picture.start)) return
  const { min } = sourceLimits(edit, next, 'start')
  edit.patchClip(next.id, sliceClip(next, Math.max(min, next.start - overhang), clipEnd(next)))
}

/**
 * Sounds that would overlap by less than half a frame meet where the later one begins: a sound seldom ends just where
 * its picture does, and neither is in the other's way for that.
 * @returns the clip that is to be put there, as long as it may be
 */
export function meetNeighbours(edit: Edit, clip: Clip, own: ReadonlySet<string> = new Set()): Clip {
  const least = leastRest(edit, edit.need('tracks', clip.trackId))
  let end = clipEnd(clip)
  for (const other of edit.clipsOn(clip.trackId)) {
    if (own.has(other.id)) continue
    const [before, after] = [clipEnd(other) - clip.start, end - other.start]
    if (other.start < clip.start && before > 0 && before < Math.min(least, other.length))
      edit.patchClip(other.id, sliceClip(other, other.start, clip.start))
    else if (other.start > clip.start && after > 0 && after < least) end = other.start
  }
  return end < clipEnd(clip) ? { ...clip, ...sliceClip(clip, clip.start, end) } : clip
}

/**
 * Lets the rest of a sound that was covered begin where what covers it ends: it was cut where its picture was, on the
 * frame, which is up to half of one later.
 */
function meetRest(edit: Edit, clip: Clip, own: ReadonlySet<string>): void {
  const least = leastRest(edit, edit.need('tracks', clip.trackId))
  const end = clipEnd(clip)
  const rest = edit.clipsOn(clip.trackId).find((other) => !own.has(other.id) && other.start > clip.start)
  if (rest && !edit.base.clips[rest.id] && rest.start > end && rest.start - end < least)
    edit.patchClip(rest.id, sliceClip(rest, end, clipEnd(rest)))
}

/** A clip that ends where the next on its track begins, if it would reach further. */
function cutByNext(edit: Edit, clip: Clip, own: ReadonlySet<string>): Clip {
  const next = edit.clipsOn(clip.trackId).find((other) => !own.has(other.id) && other.start > clip.start)
  return next && next.start < clipEnd(clip) ? { ...clip, ...sliceClip(clip, clip.start, next.start) } : clip
}

/** Makes room by moving clips that begin within new ones, and all later ones with them, by what overlaps. */
function pushAway(edit: Edit, clips: readonly Clip[], own: ReadonlySet<string>): void {
  let by = 0
  let first: Clip | null = null
  for (const { trackId, start, length } of clips)
    for (const other of edit.clipsOn(trackId)) {
      if (own.has(other.id) || other.start < start || other.start >= start + length) continue
      by = Math.max(by, start + length - other.start)
      if (!first || other.start < first.start) first = other
    }
  if (first) openGap(edit, edit.need('tracks', first.trackId), first.start, by, 'unlocked')
}

/** Puts finished clips on their tracks by a mode. Clips given may already be there and are then replaced. */
export function putClips(edit: Edit, given: readonly Clip[], mode: PlaceMode): void {
  const own = new Set(given.map((clip) => clip.id))
  // An insert makes room first: what is in its way then is another matter.
  const clips = mode === 'insert' ? given : given.map((clip) => meetNeighbours(edit, clip, own))
  if (mode === 'insert') {
    const earliest = clips.reduce((a, b) => (b.start < a.start ? b : a))
    // Sound that begins less than half a frame before its picture is inserted where the picture is.
    const track = leadTrack(edit, clips)
    const hair = track.kind === 'picture' ? grainOf(edit, track) / 2 : 0
    const picture = clips.find((clip) => clip.trackId === track.id && clip.start - earliest.start < hair)
    const first = picture ?? earliest
    const last = Math.max(...clips.map(clipEnd))
    const pictures = clips.filter((clip) => edit.need('tracks', clip.trackId).kind === 'picture')
    const shown = Math.max(0, ...pictures.map(clipEnd))
    // Nor does a sound that ends a hair after its picture open a frame of nothing behind that.
    const end = shown > first.start && last - shown < hair ? shown : last
    const lead = edit.need('tracks', first.trackId)
    openGap(edit, lead, first.start, end - first.start, 'unlocked')
    for (const clip of clips) giveWay(edit, clip, own)
    if (end < last) return clips.forEach((clip) => edit.put('clips', cutByNext(edit, clip, own)))
  } else if (mode === 'push') pushAway(edit, clips, own)
  else if (mode === 'over') {
    for (const clip of clips)
      clearRange(edit, edit.need('tracks', clip.trackId), clip.start, clip.start + clip.length, own)
    for (const clip of clips) meetRest(edit, clip, own)
  }
  for (const clip of clips) edit.put('clips', clip)
}
