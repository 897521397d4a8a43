import { z } from 'zod'
import { createTrack, defaultTrackHeight } from '../document/create'
import { compareOrder, orderBetween } from '../document/order'
import { purposeSchema, trackSchema } from '../document/track'
import { idSchema, nameSchema } from '../document/values'
import { refuse } from '../edit/refuse'
import { defineCommand } from './define'

/** Adds a track in front of the other picture tracks, or below the other sound tracks. */
export const addTrack = defineCommand({
  schema: z.object({
    type: z.literal('addTrack'),
    reelId: idSchema,
    /** Id of the new track, chosen by the caller so that it can place clips on it right away. */
    trackId: idSchema.optional(),
    purpose: purposeSchema,
    name: nameSchema.optional(),
  }),
  apply(edit, { reelId, trackId, purpose, name }) {
    edit.need('reels', reelId)
    if (trackId && edit.get('tracks', trackId)) refuse('id', 'That track is already there.', [trackId])
    const kind = purpose === 'picture' || purpose === 'titles' ? 'picture' : 'sound'
    const siblings = [...edit.all('tracks')].filter((track) => track.reelId === reelId).sort(compareOrder)
    if (siblings.length >= 200) refuse('limit', 'A reel holds at most 200 tracks.')
    const last = siblings.at(-1)?.order ?? null
    const alike = siblings.filter((track) => track.purpose === purpose).length
    const word = purpose[0]!.toUpperCase() + purpose.slice(1)
    const track = createTrack(
      reelId,
      kind,
      purpose,
      name ?? `${word} ${alike + 1}`,
      orderBetween(last, null),
      () => trackId ?? edit.newId(),
    )
    edit.put('tracks', { ...track, height: defaultTrackHeight(purpose) })
  },
  describe: ({ purpose }) => `Added a ${purpose} track`,
})

/** Changes a track's switches, name, height or level. */
export const setTrack = defineCommand({
  schema: z.object({
    type: z.literal('setTrack'),
    trackId: idSchema,
    set: trackSchema
      .pick({
        name: true,
        purpose: true,
        height: true,
        hidden: true,
        muted: true,
        solo: true,
        locked: true,
        gain: true,
      })
      .partial(),
  }),
  apply(edit, { trackId, set }) {
    const track = { ...edit.need('tracks', trackId), ...set }
    if ((track.kind === 'picture') !== (track.purpose === 'picture' || track.purpose === 'titles'))
      refuse('kind', `A ${track.kind} track can’t be for ${track.purpose}.`, [trackId])
    edit.put('tracks', track)
  },
  describe: ({ set }) => {
    const [key, value] = Object.entries(set)[0] ?? ['track', true]
    const words: Record<string, [string, string]> = {
      hidden: ['Hid a track', 'Showed a track'],
      muted: ['Muted a track', 'Unmuted a track'],
      solo: ['Soloed a track', 'Ended a solo'],
      locked: ['Locked a track', 'Unlocked a track'],
      name: ['Renamed a track', ''],
      purpose: ['Changed what a track is for', ''],
      height: ['Resized a track', ''],
      gain: ['Changed a track’s level', ''],
    }
    return words[key]?.[value === false ? 1 : 0] ?? 'Changed a track'
  },
})

/** Removes a track with the clips on it. Clips linked to them stay, unlinked. */
export const removeTrack = defineCommand({
  schema: z.object({ type: z.literal('removeTrack'), trackId: idSchema }),
  apply(edit, { trackId }) {
    const track = edit.need('tracks', trackId)
    if (track.locked) refuse('locked', `${track.name} is locked. Unlock it to remove it.`, [trackId])
    const links = new Set<string>()
    for (const clip of edit.clipsOn(trackId)) {
      if (clip.link) links.add(clip.link)
      edit.remove('clips', clip.id)
    }
    for (const clip of [...edit.all('clips')]) {
      if (clip.link && links.has(clip.link)) edit.patchClip(clip.id, { link: null })
    }
    edit.remove('tracks', trackId)
  },
  describe: () => 'Removed a track',
})

/** Puts a track right in front of another of its kind (below it, for sounds), or with `null` behind all of them. */
export const moveTrack = defineCommand({
  schema: z.object({ type: z.literal('moveTrack'), trackId: idSchema, after: idSchema.nullable() }),
  apply(edit, { trackId, after }) {
    const track = edit.need('tracks', trackId)
    const all = [...edit.all('tracks')].filter((other) => other.reelId === track.reelId && other.id !== trackId)
    const siblings = all.sort(compareOrder)
    const kin = siblings.filter((other) => other.kind === track.kind)
    if (after && !kin.some((other) => other.id === after))
      refuse('kind', 'A track can only be put beside one of its kind in the same reel.', [trackId])
    if (kin.length === 0) refuse('nothing', 'There is no other track of its kind.', [trackId])
    const place = after ? siblings.findIndex((other) => other.id === after) : siblings.indexOf(kin[0]!) - 1
    const [before, behind] = [siblings[place]?.order ?? null, siblings[place + 1]?.order ?? null]
    edit.put('tracks', { ...track, order: orderBetween(before, behind) })
  },
  describe: () => 'Moved a track',
})
