import { z } from 'zod'
import { clipParamsSchema, reelParamsSchema, trackParamsSchema } from '../params/clipParams'
import { animatedSchema } from '../params/animated'
import type { Params } from '../params/spec'
import { fitSchema } from '../document/reel'
import { idSchema } from '../document/values'
import { openTrack } from '../edit/lanes'
import { refuse } from '../edit/refuse'
import { count, defineCommand } from './define'

/** New values by setting, each plain or with keyframes; `null` goes back to the default. */
export const paramPatchSchema = z.record(
  z.string().max(40),
  animatedSchema(z.union([z.number(), z.boolean(), z.string().max(200), z.tuple([z.number(), z.number()])])).nullable(),
)

/** A bag of settings with a patch put on it. */
export function patchParams(params: Params, patch: z.infer<typeof paramPatchSchema>): Params {
  const next = { ...params }
  for (const [key, value] of Object.entries(patch)) {
    if (value === null) delete next[key]
    else next[key] = value
  }
  return next
}

/** Refuses what does not fit the settings, naming the field. */
export function checkParams(schema: z.ZodType<Params>, params: Params, ids: string[]): Params {
  const result = schema.safeParse(params)
  if (result.success) return result.data
  const issue = result.error.issues[0]!
  return refuse('setting', `${issue.path.join('.') || 'A setting'}: ${issue.message}.`, ids)
}

/** Changes settings of clips, alike for all of them. */
export const setParams = defineCommand({
  schema: z.object({
    type: z.literal('setParams'),
    clipIds: z.array(idSchema).min(1).max(5000),
    set: paramPatchSchema,
  }),
  apply(edit, { clipIds, set }) {
    for (const id of clipIds) {
      const clip = edit.need('clips', id)
      openTrack(edit, clip.trackId)
      edit.patchClip(id, { params: checkParams(clipParamsSchema, patchParams(clip.params, set), [id]) })
    }
  },
  describe: ({ clipIds, set }) =>
    `Changed ${Object.keys(set).slice(0, 3).join(', ')} of ${count(clipIds.length, 'clip')}`,
})

/** Changes settings of several clips, each its own, in one step; with `fit`, its fitting too. */
export const setEach = defineCommand({
  schema: z.object({
    type: z.literal('setEach'),
    clips: z
      .array(z.object({ clipId: idSchema, set: paramPatchSchema, fit: fitSchema.nullable().optional() }))
      .min(1)
      .max(5000),
  }),
  apply(edit, { clips }) {
    for (const { clipId, set, fit } of clips) {
      const clip = edit.need('clips', clipId)
      openTrack(edit, clip.trackId)
      const params = checkParams(clipParamsSchema, patchParams(clip.params, set), [clipId])
      edit.patchClip(clipId, fit === undefined ? { params } : { params, fit })
    }
  },
  describe: ({ clips }) => `Placed ${count(clips.length, 'picture')}`,
})

/** Changes settings of a whole track: motion and opacity of pictures, level and pan of sounds. */
export const setTrackParams = defineCommand({
  schema: z.object({ type: z.literal('setTrackParams'), trackId: idSchema, set: paramPatchSchema }),
  apply(edit, { trackId, set }) {
    const track = openTrack(edit, trackId)
    edit.put('tracks', { ...track, params: checkParams(trackParamsSchema, patchParams(track.params, set), [trackId]) })
  },
  describe: ({ set }) => `Changed ${Object.keys(set).slice(0, 3).join(', ')} of a track`,
})

/** Changes settings of all that is heard of a reel. */
export const setReelParams = defineCommand({
  schema: z.object({ type: z.literal('setReelParams'), reelId: idSchema, set: paramPatchSchema }),
  apply(edit, { reelId, set }) {
    const reel = edit.need('reels', reelId)
    edit.put('reels', { ...reel, params: checkParams(reelParamsSchema, patchParams(reel.params, set), [reelId]) })
  },
  describe: ({ set }) => `Changed ${Object.keys(set).slice(0, 3).join(', ')} of the reel`,
})
