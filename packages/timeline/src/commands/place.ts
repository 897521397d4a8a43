import { z } from 'zod'
import { sourceLength } from '../document/asset'
import { clipSchema, type Clip } from '../document/clip'
import { idSchema, ticksSchema } from '../document/values'
import type { Edit } from '../edit/edit'
import { clearRange, openGap, openTrack, refuseOverlap, snapOn } from '../edit/lanes'
import { refuse } from '../edit/refuse'
import { count, defineCommand } from './define'

/** What happens to clips in the way: nothing may be in the way, later clips are pushed, or what lies beneath is covered. */
export const placeModeSchema = z.enum(['free', 'insert', 'over'])
export type PlaceMode = z.infer<typeof placeModeSchema>

/** A stretch of a source to put on a track. */
const pieceSchema = z.object({
  clipId: idSchema,
  trackId: idSchema,
  assetId: idSchema,
  stream: clipSchema.shape.stream,
  start: ticksSchema,
  length: ticksSchema.min(1),
  /** Source position of the first frame, in ticks. */
  source: ticksSchema,
  link: idSchema.nullable(),
  gain: clipSchema.shape.gain.default(0),
})
export type Piece = z.input<typeof pieceSchema>

function pieceToClip(edit: Edit, piece: z.infer<typeof pieceSchema>): Clip {
  const track = openTrack(edit, piece.trackId)
  const asset = edit.need('assets', piece.assetId)
  if (edit.get('clips', piece.clipId)) refuse('id', 'That clip is already there.', [piece.clipId])
  if (track.kind === 'picture' && (!asset.picture || piece.stream !== null))
    refuse('kind', `${asset.name} has no picture to put on ${track.name}.`, [asset.id])
  if (track.kind === 'sound' && (piece.stream === null || !asset.sounds[piece.stream]))
    refuse('kind', `${asset.name} has no such sound to put on ${track.name}.`, [asset.id])
  const start = snapOn(edit, track, piece.start)
  // A part that asks for more than its source holds ends with it.
  const left = asset.kind === 'still' ? piece.length : sourceLength(asset, piece.stream) - piece.source
  const end = snapOn(edit, track, piece.start + Math.min(piece.length, Math.max(left, 0)))
  if (left <= 0) refuse('source', `${asset.name} ends before that part begins.`, [asset.id])
  if (end <= start) refuse('length', 'A clip has to be at least one frame long.', [piece.clipId])
  return {
    id: piece.clipId,
    kind: 'media',
    trackId: track.id,
    assetId: asset.id,
    stream: piece.stream,
    start,
    length: end - start,
    head: 0,
    map: { kind: 'steady', source: piece.source },
    link: piece.link,
    name: null,
    label: null,
    gain: piece.gain,
    opacity: 1,
    fit: null,
    place: { x: 0, y: 0, scale: 1, turn: 0 },
  }
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
    `${{ free: 'Placed', insert: 'Inserted', over: 'Laid over' }[mode]} ${count(new Set(pieces.map((p) => p.link ?? p.clipId)).size, 'clip')}`,
})

/** Puts finished clips on their tracks by a mode. Clips given may already be there and are then replaced. */
export function putClips(edit: Edit, clips: readonly Clip[], mode: PlaceMode): void {
  const own = new Set(clips.map((clip) => clip.id))
  if (mode === 'insert') {
    const first = clips.reduce((a, b) => (b.start < a.start ? b : a))
    const end = Math.max(...clips.map((clip) => clip.start + clip.length))
    openGap(edit, edit.need('tracks', first.trackId), first.start, end - first.start, 'all')
  } else if (mode === 'over') {
    for (const clip of clips)
      clearRange(edit, edit.need('tracks', clip.trackId), clip.start, clip.start + clip.length, own)
  }
  for (const clip of clips) edit.put('clips', clip)
  refuseOverlap(
    edit,
    clips.map((clip) => clip.trackId),
  )
}
