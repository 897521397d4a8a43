import { z } from 'zod'
import { clipSchema } from '../document/clip'
import { effectSchema } from '../document/effect'
import { markerSchema } from '../document/marker'
import { compareOrder, orderBetween } from '../document/order'
import { reelSchema } from '../document/reel'
import { sourceOf } from '../document/source'
import { trackSchema } from '../document/track'
import { transitionSchema } from '../document/transition'
import { ticksSchema } from '../document/values'
import type { Edit } from '../edit/edit'
import { openTrack, quantise } from '../edit/lanes'
import { refuse } from '../edit/refuse'
import { count, defineCommand } from './define'
import { copyClips, copyTransitions } from './duplicate'
import { placeModeSchema, putClips } from './place'
import { withTakesOf } from './takes'

/** A reel with all that is in it, as a copy of a clip that plays it brings along. */
export const wholeReelSchema = z.object({
  // Copies from before reels had a level and settings of their sound can still be pasted.
  reel: reelSchema.extend({ gain: reelSchema.shape.gain.default(0), params: reelSchema.shape.params.default({}) }),
  tracks: z.array(trackSchema).max(1000),
  clips: z.array(clipSchema).max(5000),
  transitions: z.array(transitionSchema).max(5000),
  markers: z.array(markerSchema).max(5000),
  effects: z.array(effectSchema).max(5000).default([]),
})
export type WholeReel = z.infer<typeof wholeReelSchema>

/** Puts reels into the project that it does not have yet. */
function bringReels(edit: Edit, whole: readonly WholeReel[]): void {
  const brought = whole.filter(({ reel }) => !edit.get('reels', reel.id))
  for (const { reel, tracks, clips, transitions, markers, effects } of brought) {
    const last = [...edit.all('reels')].sort(compareOrder).at(-1)
    edit.put('reels', { ...reel, order: orderBetween(last?.order ?? null, null) })
    const own = new Set(tracks.map(({ id }) => id))
    const ids = new Set(clips.map(({ id }) => id))
    const within = (id: string | null) => id === null || ids.has(id)
    const strays =
      tracks.some((track) => track.reelId !== reel.id || edit.get('tracks', track.id)) ||
      clips.some((clip) => !own.has(clip.trackId) || edit.get('clips', clip.id)) ||
      transitions.some(
        (entry) =>
          !own.has(entry.trackId) ||
          !within(entry.leftId) ||
          !within(entry.rightId) ||
          edit.get('transitions', entry.id),
      ) ||
      markers.some(
        (marker) =>
          (marker.clipId ? !ids.has(marker.clipId) : marker.reelId !== reel.id) || edit.get('markers', marker.id),
      )
    if (strays) refuse('id', `What is in ${reel.name} does not belong together.`, [reel.id])
    for (const track of tracks) edit.put('tracks', track)
    for (const clip of clips) edit.put('clips', clip)
    for (const transition of transitions) edit.put('transitions', transition)
    for (const marker of markers) edit.put('markers', marker)
    const owners = new Set([reel.id, ...own, ...ids])
    for (const effect of effects)
      if (owners.has(effect.ownerId) && !edit.get('effects', effect.id)) edit.put('effects', effect)
  }
  for (const { reel, clips } of brought)
    for (const clip of clips) {
      if (!sourceOf(edit, clip)) refuse('missing', `A source of ${reel.name} is not in this project.`, [clip.id])
    }
}

/** Puts copied clips, with everything set on them, into a reel; each already names the track it is to go on. */
export const paste = defineCommand({
  schema: z.object({
    type: z.literal('paste'),
    clips: z.array(clipSchema).min(1).max(2000),
    markers: z.array(markerSchema).max(2000).default([]),
    transitions: z.array(transitionSchema).max(2000).default([]),
    effects: z.array(effectSchema).max(5000).default([]),
    /** Reels that play in them: those this project does not have are brought along. */
    reels: z.array(wholeReelSchema).max(100).default([]),
    /** Where the first of them begins; the others keep their distance. */
    at: ticksSchema,
    mode: placeModeSchema.default('insert'),
  }),
  apply(edit, { clips, markers, transitions, effects, reels, at, mode }) {
    bringReels(edit, reels)
    const tracks = clips.map((clip) => openTrack(edit, clip.trackId))
    const reelId = tracks[0]!.reelId
    const lead = tracks.find((track) => track.kind === 'picture') ?? tracks[0]!
    for (const [i, clip] of clips.entries()) {
      const track = tracks[i]!
      if (track.reelId !== reelId) refuse('kind', 'Clips are pasted into one reel at a time.', [track.id])
      const source = sourceOf(edit, clip)
      if (!source) refuse('missing', 'A source of these clips is not in this project.', [clip.id])
      const fits =
        track.kind === 'picture'
          ? source?.picture && clip.stream === null
          : clip.stream !== null && source?.sounds[clip.stream]
      if (!fits) refuse('kind', `${source?.name} can’t go on ${track.name}.`, [clip.id])
    }
    const by = quantise(edit, lead, at) - Math.min(...clips.map((clip) => clip.start))
    const copies = copyClips(edit, clips, by).map((copy, i) => {
      const end = quantise(edit, tracks[i]!, clips[i]!.start + clips[i]!.length + by)
      if (end <= copy.start) refuse('length', 'A clip has to be at least one frame long.', [clips[i]!.id])
      return { ...withTakesOf(edit, copy), length: end - copy.start }
    })
    putClips(edit, copies, mode)
    const copyOf = new Map(clips.map((clip, i) => [clip.id, copies[i]!.id]))
    copyTransitions(edit, transitions, copyOf)
    for (const effect of effects) {
      const ownerId = effect.owner === 'clip' ? copyOf.get(effect.ownerId) : undefined
      if (ownerId) edit.put('effects', { ...effect, id: edit.newId(), ownerId })
    }
    for (const marker of markers) {
      const clipId = marker.clipId && copyOf.get(marker.clipId)
      if (clipId) edit.put('markers', { ...marker, id: edit.newId(), clipId, reelId: null })
    }
  },
  describe: ({ clips }) => `Pasted ${count(clips.length, 'clip')}`,
})
