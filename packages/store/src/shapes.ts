import { z } from 'zod'
import { rateSchema, ticksSchema } from '@dusk/timeline'

/** What a person chose for a render. Times in ticks on the reel; `null` is the whole reel. */
export const renderSettingsSchema = z.object({
  width: z.int().min(16).max(8192).multipleOf(2),
  height: z.int().min(16).max(8192).multipleOf(2),
  rate: rateSchema,
  quality: z.enum(['draft', 'good', 'best']),
  range: z.object({ from: ticksSchema, to: ticksSchema }).nullable(),
  sound: z.boolean(),
  /** Loudness in LUFS that all of it is brought to, its true peak held at −1 dB; none leaves it as it was mixed. */
  loudness: z.number().min(-40).max(-5).nullable().optional(),
})
export type RenderSettings = z.infer<typeof renderSettingsSchema>

export const renderProgressSchema = z.object({
  stage: z.enum(['between', 'picture', 'sound', 'joining', 'checking']),
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
