import { z } from 'zod'
import { SPEED_LIMITS, type Clip } from '../document/clip'
import { createTrack } from '../document/create'
import { compareOrder, orderBetween } from '../document/order'
import { clipEnd } from '../document/query'
import { sourceOf } from '../document/source'
import { idSchema, ticksSchema } from '../document/values'
import type { Edit } from '../edit/edit'
import { copyEffects } from '../edit/carry'
import { grainOf, leastRest, linkedClips, openTrack, quantise } from '../edit/lanes'
import { refuse } from '../edit/refuse'
import { sourceTimeAt } from '../evaluate/timeMap'
import { count, defineCommand } from './define'
import { meetNeighbours, pieceSchema, pieceToClip, putClips } from './place'

const pieces = z.array(pieceSchema).min(1).max(2000)

/** Puts clips behind the last one of their tracks, where none of them is in the way of another; starts are relative. */
export const append = defineCommand({
  schema: z.object({ type: z.literal('append'), pieces }),
  apply(edit, command) {
    const tracks = command.pieces.map((piece) => openTrack(edit, piece.trackId))
    const lead = tracks.find((track) => track.kind === 'picture') ?? tracks[0]!
    // Behind everything on the tracks in question: a picture never runs ahead of the sound before it. What of that is
    // less than half a frame opens no hole between pictures.
    const ends = tracks.map((track) => edit.clipsOn(track.id).at(-1)).map((clip) => (clip ? clipEnd(clip) : 0))
    const base = quantise(edit, lead, Math.max(...ends))
    const first = Math.min(...command.pieces.map((piece) => piece.start))
    const clips = command.pieces.map((piece) => pieceToClip(edit, { ...piece, start: base + piece.start - first }))
    putClips(edit, clips, 'free')
  },
  describe: (command) =>
    `Added ${count(new Set(command.pieces.map((piece) => piece.link ?? piece.clipId)).size, 'clip')} to the end`,
})

/** A track of the kind in front of everything at that time, or a new one there; sounds take any that is free. */
function laneAbove(edit: Edit, clip: Clip): string {
  const home = edit.need('tracks', clip.trackId)
  const all = [...edit.all('tracks')].filter((track) => track.reelId === home.reelId).sort(compareOrder)
  const kin = all.filter((track) => track.kind === home.kind)
  const least = leastRest(edit, home)
  const busy = (trackId: string) =>
    edit.clipsOn(trackId).some((other) => other.start < clipEnd(clip) - least && clipEnd(other) > clip.start + least)
  if (home.kind === 'sound') {
    const free = [home, ...kin].find((track) => !track.locked && !busy(track.id))
    if (free) return free.id
  } else {
    const front = kin.map((track) => busy(track.id)).lastIndexOf(true)
    const free = kin.find((track, i) => i > front && !track.locked)
    if (free) return free.id
  }
  const alike = kin.filter((track) => track.purpose === home.purpose).length
  const word = home.purpose[0]!.toUpperCase() + home.purpose.slice(1)
  const top = kin.at(-1)!
  const next = all[all.indexOf(top) + 1]?.order ?? null
  const made = createTrack(
    home.reelId,
    home.kind,
    home.purpose,
    `${word} ${alike + 1}`,
    orderBetween(top.order, next),
    () => edit.newId(),
  )
  edit.put('tracks', made)
  return made.id
}

/** Puts clips in front of whatever shows at their time, on a new track when there is no free one. */
export const stackAbove = defineCommand({
  schema: z.object({ type: z.literal('stackAbove'), pieces }),
  apply(edit, command) {
    for (const piece of command.pieces) {
      const clip = pieceToClip(edit, piece)
      edit.put('clips', meetNeighbours(edit, { ...clip, trackId: laneAbove(edit, clip) }))
    }
  },
  describe: (command) =>
    `Stacked ${count(new Set(command.pieces.map((piece) => piece.link ?? piece.clipId)).size, 'clip')} above`,
})

/** Holds the last frame of a clip until `end`, as a clip of its own behind it. */
function holdLast(edit: Edit, clip: Clip, end: number): void {
  const start = clipEnd(clip)
  const last = start - grainOf(edit, edit.need('tracks', clip.trackId))
  const map = { kind: 'freeze' as const, source: sourceTimeAt(clip, Math.max(clip.start, last)) }
  const held: Clip = { ...clip, id: edit.newId(), start, length: end - start, head: 0, sync: 0, link: null, map }
  edit.put('clips', held)
  copyEffects(edit, 'clip', clip.id, held.id)
}

/**
 * Puts another source into a clip; place, length and settings stay. Where the new source is shorter than the clip, the
 * clip ends with it, or its length stays: played slower, or with its last frame held. Linked sound takes the new
 * source's sound, and goes when it has none.
 */
export const replace = defineCommand({
  schema: z.object({
    type: z.literal('replace'),
    clipId: idSchema,
    assetId: idSchema,
    /** Source time of the first frame, in ticks. */
    source: ticksSchema.default(0),
    /** What becomes of a clip that is longer than what the source holds from there. */
    short: z.enum(['shorten', 'slow', 'hold']).default('shorten'),
    linked: z.boolean().default(true),
  }),
  apply(edit, { clipId, assetId, source, short, linked }) {
    const asset = edit.need('assets', assetId)
    const named = edit.need('clips', clipId)
    const trackOf = (clip: Clip) => edit.need('tracks', clip.trackId)
    const clips = linkedClips(edit, [clipId], linked)
    if (trackOf(named).kind === 'picture' ? !asset.picture : asset.sounds.length === 0)
      refuse('kind', `${asset.name} has no ${trackOf(named).kind} to put here.`, [assetId])
    for (const clip of clips) {
      const track = trackOf(clip)
      const fits = track.kind === 'picture' ? asset.picture !== null : asset.sounds.length > 0
      if (!fits) {
        edit.remove('clips', clip.id)
        continue
      }
      const { id, trackId, start, length, link, group, name: _, note, label, gain, fit, params } = clip
      const next: Clip = {
        ...{ id, trackId, start, length, link, group, note, label, gain, fit, params },
        kind: 'media',
        assetId,
        stream: track.kind === 'picture' ? null : 0,
        name: null,
        head: 0,
        sync: 0,
        map: { kind: 'constant', source: source + (clip.start - named.start), speed: 1 },
      }
      const held = sourceOf(edit, next)!.length - next.map.source
      if (held <= 0) refuse('source', `${asset.name} ends before that part begins.`, [assetId])
      const { source: from } = next.map
      const speed = short === 'slow' ? Math.min(1, Math.max(held / length, SPEED_LIMITS.min)) : 1
      if (speed < 1) next.map = { kind: 'constant', source: from, speed }
      const lasts = Math.floor(held / speed)
      const end = quantise(edit, track, Math.min(clipEnd(clip), start + lasts))
      if (end <= start) refuse('length', 'A clip has to be at least one frame long.', [id])
      edit.put('clips', { ...next, length: end - start })
      if (short === 'hold' && track.kind === 'picture' && end < clipEnd(clip))
        holdLast(edit, edit.need('clips', id), clipEnd(clip))
    }
    const rest = named.link ? edit.linkedTo(named.link) : []
    if (rest.length === 1) edit.patchClip(rest[0]!.id, { link: null })
  },
  describe: () => 'Replaced a clip’s source',
})
