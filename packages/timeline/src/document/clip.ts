import { z } from 'zod'
import { clipParamsSchema } from '../params/clipParams'
import { looseParamsSchema } from '../params/spec'
import { fitSchema } from './reel'
import { titleSchema } from './title'
import { gainSchema, idSchema, nameSchema, noteSchema, signedTicksSchema, ticksSchema } from './values'

/** Slowest and fastest that footage plays, as factors of its own speed. */
export const SPEED_LIMITS = { min: 0.05, max: 100 } as const

/** How fast a source plays, as a factor of its own speed: 1 as it was filmed, 0.5 half as fast; below 0 backwards. */
export const speedSchema = z
  .number()
  .min(-SPEED_LIMITS.max)
  .max(SPEED_LIMITS.max)
  .refine((speed) => Math.abs(speed) >= SPEED_LIMITS.min, 'a speed is from 0.05 to 100 times, also backwards')

/** How speed goes from one point of a curve to the next: evenly, slowly at both ends, or not before the next point. */
export const speedEaseSchema = z.enum(['linear', 'smooth', 'hold'])

/** A point of a speed curve: clip time in ticks, and the speed there. */
export const speedPointSchema = z.object({
  at: signedTicksSchema,
  speed: z.number().min(SPEED_LIMITS.min).max(SPEED_LIMITS.max),
  ease: speedEaseSchema,
})

/**
 * From clip time to source time. `constant` runs at one speed: source time = `source` + clip time × speed. `ramp` runs
 * along a curve of speeds, or backwards along it, and shows `source` at clip time zero. Both go on past the trims in
 * both directions, at the speed of the end, which is what makes hidden footage reachable. `freeze` shows one moment for
 * as long as the clip lasts, in both directions.
 */
export const timeMapSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('constant'), source: signedTicksSchema, speed: speedSchema.default(1) }),
  z.object({ kind: z.literal('freeze'), source: signedTicksSchema }),
  z.object({
    kind: z.literal('ramp'),
    source: signedTicksSchema,
    backwards: z.boolean(),
    points: z
      .array(speedPointSchema)
      .min(1)
      .max(200)
      .refine((points) => points.every((point, i) => i === 0 || point.at > points[i - 1]!.at), 'points go on in time'),
  }),
])

/** The person's own colour labels. */
export const labelSchema = z.enum(['lamp', 'ember', 'rose', 'dusk', 'moss', 'plum'])

/**
 * What every clip has: a stretch of a track, from `start` for `length` ticks. Clip time at a reel position is
 * `head + position − start`: trimming the head or splitting changes `head`, so anything kept in clip time stays put.
 */
export const clipBaseSchema = z.object({
  id: idSchema,
  trackId: idSchema,
  /** Which sound stream of the source plays; `null` on picture tracks. A nested reel has one, its mix. */
  stream: z.int().min(0).max(63).nullable(),
  start: ticksSchema,
  length: ticksSchema.min(1),
  head: signedTicksSchema,
  map: timeMapSchema,
  /** Clips with the same link move, trim, split and leave together. */
  link: idSchema.nullable(),
  /**
   * Where this clip's source lies against its partners' when they are in sync, in ticks: the reel position of source
   * time zero, less `sync`, is then the same for all of a link. Zero for picture and sound of one file.
   */
  sync: signedTicksSchema,
  /** Clips with the same group are selected together and move together; their trims are their own. */
  group: idSchema.nullable(),
  name: nameSchema.nullable(),
  note: noteSchema,
  label: labelSchema.nullable(),
  gain: gainSchema,
  /** `null` follows the reel's own choice. */
  fit: fitSchema.nullable(),
  /** Place, mix, crop, edges and the rest of how a picture is laid down, where it differs from the defaults. */
  params: clipParamsSchema,
})

/**
 * A recording that can play in a clip in another's place. `source` is the moment of it, in ticks, that lies where
 * `source` of the clip's other takes lies.
 */
export const takeSchema = z.object({ assetId: idSchema, stream: z.int().min(0).max(63), source: signedTicksSchema })

/** A stretch of a source of the library. */
export const mediaClipSchema = clipBaseSchema.extend({
  kind: z.literal('media'),
  assetId: idSchema,
  /** Recordings of the same stretch, the one that plays among them; not there while there is only one. */
  takes: z.array(takeSchema).max(100).optional(),
})

/**
 * A stretch of another reel of the project, played as one picture or one sound. One that is `through` and has nothing
 * done to it as a whole is laid down clip by clip, as if they lay in the reel around it: what blends or adjusts in it
 * acts on what lies beneath, too.
 */
export const reelClipSchema = clipBaseSchema.extend({
  kind: z.literal('reel'),
  nestedId: idSchema,
  through: z.boolean().optional(),
})

/** Words. */
export const titleClipSchema = clipBaseSchema.extend({ kind: z.literal('title'), title: titleSchema })

/** A picture made by rule: a plain colour, a gradient, a shape, a countdown. */
export const generatorClipSchema = clipBaseSchema.extend({
  kind: z.literal('generator'),
  /** Name in the list of generators. */
  generator: z.string().regex(/^[a-z][A-Za-z0-9]{0,39}$/, 'expected the name of a generator'),
  settings: looseParamsSchema,
})

/** Everything beneath it, taken as one picture and laid down anew with this clip's settings. */
export const adjustmentClipSchema = clipBaseSchema.extend({ kind: z.literal('adjustment') })

export const clipSchema = z.discriminatedUnion('kind', [
  mediaClipSchema,
  reelClipSchema,
  titleClipSchema,
  generatorClipSchema,
  adjustmentClipSchema,
])

export type TimeMap = z.infer<typeof timeMapSchema>
export type SpeedEase = z.infer<typeof speedEaseSchema>
export type SpeedPoint = z.infer<typeof speedPointSchema>
export type Label = z.infer<typeof labelSchema>
export type ClipBase = z.infer<typeof clipBaseSchema>
export type Take = z.infer<typeof takeSchema>
export type MediaClip = z.infer<typeof mediaClipSchema>
export type ReelClip = z.infer<typeof reelClipSchema>
export type TitleClip = z.infer<typeof titleClipSchema>
export type GeneratorClip = z.infer<typeof generatorClipSchema>
export type Clip = z.infer<typeof clipSchema>

/** What a clip has when nothing was changed yet. */
export const CLIP_DEFAULTS = {
  head: 0,
  link: null,
  sync: 0,
  group: null,
  name: null,
  note: '',
  label: null,
  gain: 0,
  fit: null,
  params: {},
} as const satisfies Partial<ClipBase>

/** What a clip plays, as one word: clips with the same one show the same source. */
export function playedBy(clip: Clip): string {
  switch (clip.kind) {
    case 'media':
      return `media ${clip.assetId}`
    case 'reel':
      return `reel ${clip.nestedId}`
    case 'title':
      return `title ${JSON.stringify(clip.title)}`
    case 'generator':
      return `generator ${clip.generator} ${JSON.stringify(clip.settings)}`
    case 'adjustment':
      return 'adjustment'
  }
}
