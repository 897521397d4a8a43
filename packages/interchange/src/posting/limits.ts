import { z } from 'zod'

/** What a place for films takes, as it says before anything is sent. */
export const postLimitsSchema = z.object({
  /** What the place is called. */
  place: z.string().min(1).max(100),
  /** Media types of files that it takes. */
  kinds: z.array(z.string().max(100)).max(20),
  maxBytes: z.number().positive(),
  maxSeconds: z.number().positive(),
  /** Width by height: the widest and the most upright picture that it takes. */
  shape: z.object({ least: z.number().positive(), most: z.number().positive(), words: z.string().max(100) }),
  title: z.int().positive(),
  description: z.int().nonnegative(),
  tags: z.object({ most: z.int().nonnegative(), length: z.int().positive() }),
  chapters: z.object({ most: z.int().nonnegative(), leastSeconds: z.number().nonnegative() }),
  thumbnail: z.object({ maxBytes: z.number().positive(), kinds: z.array(z.string().max(100)).max(20) }),
})
export type PostLimits = z.infer<typeof postLimitsSchema>

/** What is said of a film where it is posted. */
export const postWordsSchema = z.object({
  title: z.string().trim().max(1000),
  description: z.string().max(50_000),
  tags: z.array(z.string().trim().min(1).max(500)).max(500),
  /** Where parts begin, in seconds, by name. */
  chapters: z.array(z.object({ at: z.number().nonnegative(), name: z.string().trim().max(500) })).max(500),
  /** WebVTT, with its language (BCP 47). */
  captions: z
    .object({ language: z.string().regex(/^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/), vtt: z.string().max(4_000_000) })
    .nullable(),
})
export type PostWords = z.infer<typeof postWordsSchema>

/** What a place has to know of a film's file. */
export const postFileSchema = z.object({
  name: z.string().min(1).max(500),
  /** Media type. */
  kind: z.string().max(100),
  bytes: z.number().positive(),
  seconds: z.number().nonnegative(),
  width: z.int().positive(),
  height: z.int().positive(),
})
export type PostFile = z.infer<typeof postFileSchema>

/** A film that somebody wants to post. */
export const postSchema = postWordsSchema.extend({ file: postFileSchema })
export type Post = z.infer<typeof postSchema>
