import { z } from 'zod'
import type { Clip } from '../document/clip'
import { idSchema, signedTicksSchema } from '../document/values'
import { dropLoneLinks, linkedClips, openTrack, quantise } from '../edit/lanes'
import { refuse } from '../edit/refuse'
import { count, defineCommand } from './define'
import { placeModeSchema, putClips } from './place'

/** Moves clips, with what is linked to them, along the reel and, for those named in `tracks`, to another track. */
export const move = defineCommand({
  schema: z.object({
    type: z.literal('move'),
    clipIds: z.array(idSchema).min(1).max(5000),
    /** How far, in ticks; snapped to the frame grid where a picture is among them. */
    by: signedTicksSchema,
    /** New track by clip id; the others stay on theirs. */
    tracks: z.record(idSchema, idSchema).default({}),
    mode: placeModeSchema,
    /** `false` moves the named clips alone and lets a pair slip. */
    linked: z.boolean().default(true),
  }),
  apply(edit, { clipIds, by, tracks, mode, linked }) {
    const clips = linkedClips(edit, clipIds, linked)
    const earliest = Math.min(...clips.map((clip) => clip.start))
    if (earliest + by < 0) refuse('before-start', 'A clip can’t begin before the start of the reel.', clipIds)
    // With a picture among them all move by the same whole frames, so that sound stays where its picture is.
    const lead = clips.find((clip) => edit.need('tracks', clip.trackId).kind === 'picture') ?? clips[0]!
    const shift = quantise(edit, edit.need('tracks', lead.trackId), lead.start + by) - lead.start
    const moved: Clip[] = clips.map((clip) => {
      const target = openTrack(edit, tracks[clip.id] ?? clip.trackId)
      const origin = edit.need('tracks', clip.trackId)
      if (target.kind !== origin.kind || target.reelId !== origin.reelId)
        refuse('kind', `This clip can’t go on ${target.name}.`, [clip.id])
      const start = Math.max(0, quantise(edit, target, clip.start + shift))
      return { ...clip, trackId: target.id, start }
    })
    // Taken out first: a clip never stands in its own way, and an insert does not push it twice.
    for (const clip of clips) edit.remove('clips', clip.id)
    putClips(edit, moved, mode)
    dropLoneLinks(
      edit,
      clips.map((clip) => clip.link),
    )
  },
  describe: ({ clipIds }) => `Moved ${count(clipIds.length, 'clip')}`,
})
