import { z } from 'zod'
import { frameTableSchema, rateSchema, ticksSchema } from '@dusk/timeline'

/** What is known of a stored file, whoever added it. */
export const mediaFactsSchema = z.object({
  kind: z.enum(['video', 'sound', 'still']),
  container: z.string(),
  /** Start of the container's clock and of the first picture on it, in ticks. */
  start: z.int(),
  zero: z.int(),
  timed: z.boolean(),
  table: frameTableSchema.nullable(),
  width: z.int().nullable(),
  height: z.int().nullable(),
  alpha: z.boolean(),
  filters: z.array(z.string()),
  videoIndex: z.int().nullable(),
  videoCodec: z.string().nullable(),
  rate: rateSchema.nullable(),
  variable: z.boolean(),
  length: ticksSchema,
  sounds: z.array(
    z.object({
      index: z.int(),
      codec: z.string(),
      channels: z.int(),
      sampleRate: z.number(),
      title: z.string(),
      samples: z.int(),
    }),
  ),
  notes: z.array(z.string()),
  strip: z
    .object({
      tileWidth: z.int(),
      tileHeight: z.int(),
      columns: z.int(),
      times: z.array(z.int()),
      type: z.string(),
    })
    .nullable(),
  proxy: z.object({ width: z.int(), height: z.int() }).nullable(),
})
export type MediaFacts = z.infer<typeof mediaFactsSchema>

/** What a person chose for a render. Times in ticks on the reel; `null` is the whole reel. */
export const renderSettingsSchema = z.object({
  width: z.int().min(16).max(8192).multipleOf(2),
  height: z.int().min(16).max(8192).multipleOf(2),
  rate: rateSchema,
  quality: z.enum(['draft', 'good', 'best']),
  range: z.object({ from: ticksSchema, to: ticksSchema }).nullable(),
  sound: z.boolean(),
})
export type RenderSettings = z.infer<typeof renderSettingsSchema>

export const renderProgressSchema = z.object({
  stage: z.enum(['picture', 'sound', 'joining', 'checking']),
  framesDone: z.int(),
  frames: z.int(),
  /** Estimated seconds to go; `null` before there is enough to say. */
  secondsLeft: z.number().nullable(),
})
export type RenderProgress = z.infer<typeof renderProgressSchema>

/** What the finished file was found to hold. */
export const renderReportSchema = z.object({
  frames: z.int(),
  seconds: z.number(),
  bytes: z.number(),
  width: z.int(),
  height: z.int(),
  loudness: z.number().nullable(),
  peak: z.number().nullable(),
  /** How long the render took, in seconds. */
  took: z.number(),
  /** Chunks that an earlier render had left. */
  reused: z.int(),
  chunks: z.int(),
})
export type RenderReport = z.infer<typeof renderReportSchema>
