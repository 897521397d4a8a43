import { z } from 'zod'
import { deliverySchema, encoderSpeedSchema, hardwareSchema } from '@dusk/interchange'
import { rateSchema, ticksSchema } from '@dusk/timeline'

/** What a person chose for a render. Times in ticks on the reel; `null` is the whole reel. */
export const renderSettingsSchema = z.object({
  width: z.int().min(16).max(8192).multipleOf(2),
  height: z.int().min(16).max(8192).multipleOf(2),
  rate: rateSchema,
  quality: z.enum(['draft', 'good', 'best']),
  /** What kind of file; MP4 with H.264 where nothing is said. */
  format: deliverySchema.optional(),
  /** Bits a second of the picture that are aimed at, instead of a quality. */
  bitrate: z.int().min(50_000).max(400_000_000).nullable().optional(),
  /** Bytes that the file fits into, instead of a quality. */
  maxBytes: z.int().min(100_000).max(100_000_000_000).nullable().optional(),
  /** How long the encoder looks for ways to save bits. */
  speed: encoderSpeedSchema.optional(),
  /** An encoder in a graphics chip, instead of one that runs on processors. */
  hardware: hardwareSchema.nullable().optional(),
  /** Shots that nothing is done to are copied as they are coded, where codec, size and rate allow it. */
  streamCopy: z.boolean().optional(),
  /** How the reel lies in a file of another shape: whole, or filling it with its middle. */
  fit: z.enum(['fit', 'fill']).optional(),
  /** What is seen through the reel stays so, where the file can hold that. */
  alpha: z.boolean().optional(),
  /** How colours that a GIF does not have are shown. */
  dither: z.enum(['fine', 'pattern', 'none']).optional(),
  /** Words of the file. */
  title: z.string().max(200).optional(),
  description: z.string().max(5000).optional(),
  /** Named markers of the reel become chapters. */
  chapters: z.boolean().optional(),
  /** What the person was told before: bytes of the file, and seconds that it will take with so many parts made. */
  expected: z
    .object({
      bytes: z.number().nonnegative(),
      seconds: z.number().nonnegative().nullable(),
      made: z.number().int().nonnegative().optional(),
    })
    .optional(),
  range: z.object({ from: ticksSchema, to: ticksSchema }).nullable(),
  sound: z.boolean(),
  /** Loudness in LUFS that all of it is brought to, its true peak held at −1 dB; none leaves it as it was mixed. */
  loudness: z.number().min(-40).max(-5).nullable().optional(),
})
export type RenderSettings = z.infer<typeof renderSettingsSchema>

export const renderProgressSchema = z.object({
  stage: z.enum(['between', 'picture', 'sound', 'fitting', 'joining', 'checking']),
  framesDone: z.int(),
  frames: z.int(),
  /** Frames a second that are made just now; `null` before there is enough to say. */
  pace: z.number().nullable().optional(),
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
  /** Frames that were copied as they are coded. */
  copied: z.int().optional(),
})
export type RenderReport = z.infer<typeof renderReportSchema>

/** What a render would come to, as far as is known. */
export const renderEstimateSchema = z.object({
  /** Bytes of the file, and the standard error of that as part of it. */
  bytes: z.number(),
  spread: z.number(),
  /** Seconds that it would take from now, with the chunks that are there. */
  seconds: z.number(),
  /** Chunks that are there, of all. */
  made: z.int(),
  chunks: z.int(),
})
export type RenderEstimate = z.infer<typeof renderEstimateSchema>

/** The picture that stands for a film where it is posted: one out of it, at a time in seconds, or a file. */
export const postThumbnailSchema = z.union([
  z.object({ at: z.number().nonnegative() }),
  z.object({ kind: z.string().max(100) }),
])
export type PostThumbnail = z.infer<typeof postThumbnailSchema>
