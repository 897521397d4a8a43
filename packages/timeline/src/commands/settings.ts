import { z } from 'zod'
import { clipBaseSchema, type Clip } from '../document/clip'
import { sourceOf } from '../document/source'
import { formatSchema, reelSchema, type Reel } from '../document/reel'
import { gainSchema, idSchema, nameSchema } from '../document/values'
import { sameRate } from '../time/ticks'
import { openTrack } from '../edit/lanes'
import type { Edit } from '../edit/edit'
import { refuse } from '../edit/refuse'

import type { Animated, Point } from '../params/animated'
import type { Params } from '../params/spec'
import { reframed } from '../params/reframe'
import { rescaleClip, scalePlace } from '../params/rescale'
import { count, defineCommand } from './define'
import { regrid } from './regrid'

/** Changes level, fitting, name or label of clips, alike for all of them. */
export const setClips = defineCommand({
  schema: z.object({
    type: z.literal('setClips'),
    clipIds: z.array(idSchema).min(1).max(5000),
    set: clipBaseSchema.pick({ gain: true, fit: true, name: true, label: true, note: true }).partial().extend({
      /** Another sound stream of the same source; sound clips only. */
      stream: clipBaseSchema.shape.stream.unwrap().optional(),
      /** Whether what is in a nested reel acts on what lies beneath it; pictures of reels only. */
      through: z.boolean().optional(),
    }),
  }),
  apply(edit, { clipIds, set }) {
    for (const id of clipIds) {
      const clip = edit.need('clips', id)
      const track = openTrack(edit, clip.trackId)
      if (set.stream !== undefined) {
        const source = sourceOf(edit, clip)
        if (track.kind !== 'sound' || !source?.sounds[set.stream])
          refuse('kind', `${source?.name ?? 'The source'} has no such sound stream.`, [id])
      }
      if (set.through !== undefined && (clip.kind !== 'reel' || clip.stream !== null))
        refuse('kind', 'Only a nested reel’s picture can be looked through.', [id])
      edit.patchClip(id, set)
    }
  },
  describe: ({ clipIds, set }) => {
    const names: Record<string, string> = {
      gain: 'level',
      fit: 'fitting',
      name: 'name',
      label: 'label',
      note: 'note',
      stream: 'sound stream',
      through: 'what it acts on',
    }
    const what = Object.keys(set).map((key) => names[key] ?? key)
    return `Changed ${what.join(' and ')} of ${count(clipIds.length, 'clip')}`
  },
})

export const renameProject = defineCommand({
  schema: z.object({ type: z.literal('renameProject'), name: nameSchema }),
  apply(edit, { name }) {
    edit.name = name
  },
  describe: ({ name }) => `Renamed the project to ${name}`,
})

/** Changes a reel's name, shape, rate, background or fitting. A new rate moves every picture edge to the new grid. */
export const setReel = defineCommand({
  schema: z.object({
    type: z.literal('setReel'),
    reelId: idSchema,
    set: reelSchema
      .pick({ name: true, background: true, fit: true, backgroundFill: true, gain: true })
      .extend({ format: formatSchema })
      .partial(),
  }),
  apply(edit, { reelId, set }) {
    const reel = edit.need('reels', reelId)
    edit.put('reels', { ...reel, ...set })
    if (!set.format) return
    const { width, height, rate } = set.format
    const old = reel.format
    const rescale = width !== old.width || height !== old.height
    const resnap = !sameRate(rate, old.rate)
    if (!rescale && !resnap) return
    if (resnap) regrid(edit, reelId, old.rate, rate)
    if (!rescale) return
    for (const track of [...edit.all('tracks')]) {
      if (track.reelId !== reelId || track.kind !== 'picture') continue
      for (const clip of edit.clipsOn(track.id)) edit.patchClip(clip.id, inShape(edit, clip, reel, set.format))
      const { position } = track.params as { position?: Animated<Point> }
      if (position !== undefined)
        edit.put('tracks', { ...track, params: { ...track.params, position: scalePlace(position, old, set.format) } })
    }
  },
  describe: ({ set }) =>
    set.format ? `Changed the reel to ${set.format.width} × ${set.format.height}` : 'Changed the reel',
})

/** A clip as it has to be in the new shape of its reel. */
function inShape(edit: Edit, clip: Clip, { format: old, fit }: Reel, format: Reel['format']): Partial<Clip> {
  const scaled = rescaleClip(clip, old, format)
  if (clip.kind === 'title' || clip.kind === 'adjustment') return scaled
  const made = clip.kind === 'generator'
  const picture = made ? null : sourceOf(edit, clip)?.picture
  if (!made && !picture) return scaled
  const anew = reframed({
    params: clip.params as Params,
    fit: made ? 'stretch' : (clip.fit ?? fit),
    ...{ before: picture ?? old, after: picture ?? format, from: old, to: format },
  })
  return anew ? { ...scaled, params: { ...scaled.params, ...anew } as Clip['params'] } : scaled
}

/** Sets the gain of several clips, each its own, in one step. */
export const setGains = defineCommand({
  schema: z.object({
    type: z.literal('setGains'),
    clips: z
      .array(z.object({ clipId: idSchema, gain: gainSchema }))
      .min(1)
      .max(5000),
  }),
  apply(edit, { clips }) {
    for (const { clipId, gain } of clips) {
      const track = openTrack(edit, edit.need('clips', clipId).trackId)
      if (track.kind !== 'sound') refuse('kind', 'Only a sound has a level.', [clipId])
      edit.patchClip(clipId, { gain })
    }
  },
  describe: ({ clips }) => `Set the gain of ${count(clips.length, 'clip')}`,
})
