import { z } from 'zod'
import { clipSchema } from '../document/clip'
import { markerSchema } from '../document/marker'
import { reelsInside, sourceOf } from '../document/source'
import { transitionSchema } from '../document/transition'
import { ticksSchema } from '../document/values'
import { openTrack, snapOn } from '../edit/lanes'
import { refuse } from '../edit/refuse'
import { count, defineCommand } from './define'
import { copyClips, copyTransitions } from './duplicate'
import { placeModeSchema, putClips } from './place'

/** Puts copied clips, with everything set on them, into a reel; each already names the track it is to go on. */
export const paste = defineCommand({
  schema: z.object({
    type: z.literal('paste'),
    clips: z.array(clipSchema).min(1).max(2000),
    markers: z.array(markerSchema).max(2000).default([]),
    transitions: z.array(transitionSchema).max(2000).default([]),
    /** Where the first of them begins; the others keep their distance. */
    at: ticksSchema,
    mode: placeModeSchema.default('insert'),
  }),
  apply(edit, { clips, markers, transitions, at, mode }) {
    const tracks = clips.map((clip) => openTrack(edit, clip.trackId))
    const reelId = tracks[0]!.reelId
    const lead = tracks.find((track) => track.kind === 'picture') ?? tracks[0]!
    for (const [i, clip] of clips.entries()) {
      const track = tracks[i]!
      if (track.reelId !== reelId) refuse('kind', 'Clips are pasted into one reel at a time.', [track.id])
      const source = sourceOf(edit, clip)
      if (!source) refuse('missing', 'A source of these clips is not in this project.', [clip.id])
      const fits = track.kind === 'picture' ? source?.picture && clip.stream === null : clip.stream !== null && source?.sounds[clip.stream] // prettier-ignore
      if (!fits) refuse('kind', `${source?.name} can’t go on ${track.name}.`, [clip.id])
      if (clip.kind === 'reel' && reelsInside(edit, clip.nestedId).has(reelId))
        refuse('cycle', 'A reel can’t play inside itself.', [clip.nestedId])
    }
    const by = snapOn(edit, lead, at) - Math.min(...clips.map((clip) => clip.start))
    const copies = copyClips(edit, clips, by).map((copy, i) => {
      const end = snapOn(edit, tracks[i]!, clips[i]!.start + clips[i]!.length + by)
      if (end <= copy.start) refuse('length', 'A clip has to be at least one frame long.', [clips[i]!.id])
      return { ...copy, length: end - copy.start }
    })
    putClips(edit, copies, mode)
    const copyOf = new Map(clips.map((clip, i) => [clip.id, copies[i]!.id]))
    copyTransitions(edit, transitions, copyOf)
    for (const marker of markers) {
      const clipId = marker.clipId && copyOf.get(marker.clipId)
      if (clipId) edit.put('markers', { ...marker, id: edit.newId(), clipId, reelId: null })
    }
  },
  describe: ({ clips }) => `Pasted ${count(clips.length, 'clip')}`,
})
