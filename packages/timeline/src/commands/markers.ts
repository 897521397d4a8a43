import { z } from 'zod'
import { markerSchema, type Marker } from '../document/marker'
import { idSchema } from '../document/values'
import type { Edit } from '../edit/edit'
import { openTrack } from '../edit/lanes'
import { refuse } from '../edit/refuse'
import { count, defineCommand } from './define'

function refuseBad(edit: Edit, marker: Marker): void {
  if ((marker.reelId === null) === (marker.clipId === null))
    refuse('marker', 'A marker lies on a reel or on a clip, one of the two.', [marker.id])
  if (marker.reelId) {
    edit.need('reels', marker.reelId)
    if (marker.at < 0) refuse('before-start', 'A marker can’t lie before the start of the reel.', [marker.id])
  }
  if (marker.clipId) openTrack(edit, edit.need('clips', marker.clipId).trackId)
}

/** Sets markers, such as those tapped while it played. */
export const addMarkers = defineCommand({
  schema: z.object({ type: z.literal('addMarkers'), markers: z.array(markerSchema).min(1).max(2000) }),
  apply(edit, { markers }) {
    for (const marker of markers) {
      if (edit.get('markers', marker.id)) refuse('id', 'That marker is already there.', [marker.id])
      refuseBad(edit, marker)
      edit.put('markers', marker)
    }
  },
  describe: ({ markers }) => `Set ${count(markers.length, 'marker')}`,
})

/** Moves, names or colours a marker, or makes a range of it. */
export const setMarker = defineCommand({
  schema: z.object({
    type: z.literal('setMarker'),
    markerId: idSchema,
    set: markerSchema.pick({ at: true, length: true, name: true, colour: true, note: true }).partial(),
  }),
  apply(edit, { markerId, set }) {
    const marker = { ...edit.need('markers', markerId), ...set }
    refuseBad(edit, marker)
    edit.put('markers', marker)
  },
  describe: ({ set }) => ('at' in set || 'length' in set ? 'Moved a marker' : 'Changed a marker'),
})

export const removeMarkers = defineCommand({
  schema: z.object({ type: z.literal('removeMarkers'), markerIds: z.array(idSchema).min(1).max(5000) }),
  apply(edit, { markerIds }) {
    for (const id of markerIds) {
      edit.need('markers', id)
      edit.remove('markers', id)
    }
  },
  describe: ({ markerIds }) => `Removed ${count(markerIds.length, 'marker')}`,
})
