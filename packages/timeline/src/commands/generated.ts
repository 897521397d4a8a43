import { z } from 'zod'
import { clipParamsSchema } from '../params/clipParams'
import {
  clipSchema,
  CLIP_DEFAULTS,
  titleClipSchema,
  generatorClipSchema,
  adjustmentClipSchema,
  type Clip,
} from '../document/clip'
import { titleSchema } from '../document/title'
import { idSchema, ticksSchema } from '../document/values'
import { openTrack, quantise } from '../edit/lanes'
import { refuse } from '../edit/refuse'
import { titleStyleSchema } from '../params/titleParams'
import { looseParamsSchema } from '../params/spec'
import { count, defineCommand } from './define'
import { checkParams, paramPatchSchema, patchParams } from './params'
import { placeModeSchema, putClips } from './place'
import { addTrack } from './tracks'

const base = { clipId: idSchema, trackId: idSchema, start: ticksSchema, length: ticksSchema.min(1) }
const optional = { params: clipSchema.options[0].shape.params.optional() }

/** Puts a title, a generated picture or an adjustment on a picture track. */
export const addGenerated = defineCommand({
  schema: z.object({
    type: z.literal('addGenerated'),
    generated: z
      .array(
        z.discriminatedUnion('kind', [
          titleClipSchema.pick({ kind: true, title: true }).extend({ ...base, ...optional }),
          generatorClipSchema.pick({ kind: true, generator: true, settings: true }).extend({ ...base, ...optional }),
          adjustmentClipSchema.pick({ kind: true }).extend({ ...base, ...optional }),
        ]),
      )
      .min(1)
      .max(200),
    mode: placeModeSchema,
    /** A track for titles that is put in front first, so that what is made has room. */
    newTrack: z.object({ trackId: idSchema, reelId: idSchema }).optional(),
    /** More of them, for pictures, from back to front. */
    newTracks: z
      .array(z.object({ trackId: idSchema, reelId: idSchema }))
      .max(50)
      .default([]),
  }),
  apply(edit, { generated, mode, newTrack, newTracks }) {
    if (newTrack) addTrack.apply(edit, { type: 'addTrack', purpose: 'titles', ...newTrack })
    for (const track of newTracks) addTrack.apply(edit, { type: 'addTrack', purpose: 'picture', ...track })
    const clips = generated.map(({ clipId, trackId, start, length, params, ...own }): Clip => {
      const track = openTrack(edit, trackId)
      if (track.kind !== 'picture') refuse('kind', `${track.name} is for sound; this needs a picture track.`, [trackId])
      if (edit.get('clips', clipId)) refuse('id', 'That clip is already there.', [clipId])
      const from = quantise(edit, track, start)
      const to = quantise(edit, track, start + length)
      if (to <= from) refuse('length', 'A clip has to be at least one frame long.', [clipId])
      return {
        ...CLIP_DEFAULTS,
        params: params ?? {},
        ...own,
        id: clipId,
        trackId,
        stream: null,
        start: from,
        length: to - from,
        map: { kind: 'constant', source: 0, speed: 1 },
      } as Clip
    })
    if (new Set(clips.map((clip) => clip.id)).size < clips.length) refuse('id', 'Two of these clips have the same id.')
    putClips(edit, clips, mode)
  },
  describe: ({ generated }) => {
    const words = { title: 'title', generator: 'picture', adjustment: 'adjustment' }
    return `Added ${count(generated.length, words[generated[0]!.kind])}`
  },
})

/** Changes what a title says, how it looks or how it moves. */
export const setTitle = defineCommand({
  schema: z.object({
    type: z.literal('setTitle'),
    clipIds: z.array(idSchema).min(1).max(5000),
    set: titleSchema.omit({ style: true }).partial(),
    /** Style by setting; `null` goes back to the default. */
    style: paramPatchSchema.default({}),
    /** Settings of the clip itself, in the same step. */
    params: paramPatchSchema.default({}),
  }),
  apply(edit, { clipIds, set, style, params }) {
    for (const id of clipIds) {
      const clip = edit.need('clips', id)
      openTrack(edit, clip.trackId)
      if (clip.kind !== 'title') return refuse('kind', 'This clip is not a title.', [id])
      const title = {
        ...clip.title,
        ...set,
        style: checkParams(titleStyleSchema, patchParams(clip.title.style, style), [id]),
      }
      // Runs beyond the end of a shorter text go with what they styled.
      const end = title.text.length
      title.runs = title.runs.map((run) => ({ ...run, to: Math.min(run.to, end) })).filter((run) => run.from < run.to)
      edit.put('clips', {
        ...clip,
        title,
        params: checkParams(clipParamsSchema, patchParams(clip.params, params), [id]),
      })
    }
  },
  describe: ({ set }) => (set.text !== undefined ? 'Changed the words of a title' : 'Changed a title'),
})

/** Changes settings of a generated picture. */
export const setGenerator = defineCommand({
  schema: z.object({
    type: z.literal('setGenerator'),
    clipIds: z.array(idSchema).min(1).max(5000),
    generator: generatorClipSchema.shape.generator.optional(),
    set: paramPatchSchema,
  }),
  apply(edit, { clipIds, generator, set }) {
    for (const id of clipIds) {
      const clip = edit.need('clips', id)
      openTrack(edit, clip.trackId)
      if (clip.kind !== 'generator') return refuse('kind', 'This clip is not a generated picture.', [id])
      const settings = checkParams(looseParamsSchema, patchParams(clip.settings, set), [id])
      edit.put('clips', { ...clip, settings, generator: generator ?? clip.generator })
    }
  },
  describe: () => 'Changed a generated picture',
})
