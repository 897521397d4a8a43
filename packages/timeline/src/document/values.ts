import { z } from 'zod'
import { TICKS_PER_SECOND } from '../time/ticks'

/** Largest position in a reel: 24 hours. Longer than anything cut here, and far inside exact whole numbers. */
export const MAX_TICKS = TICKS_PER_SECOND * 86_400

export const idSchema = z.uuid()
/** A position or length in ticks, never negative. */
export const ticksSchema = z.int().min(0).max(MAX_TICKS)
/** A difference of positions in ticks. */
export const signedTicksSchema = z.int().min(-MAX_TICKS).max(MAX_TICKS)
export const nameSchema = z.string().trim().min(1).max(200)
/** Words a person left on something; may be empty. */
export const noteSchema = z.string().max(4000)
export const colourSchema = z.string().regex(/^#[0-9a-f]{6}$/, 'expected a colour such as #16131c')
export const rateSchema = z.object({ num: z.int().min(1).max(240_000), den: z.int().min(1).max(1001) })
/** Level change in decibels; −96 is silence. */
export const gainSchema = z.number().min(-96).max(24)
/** Sorts an entity among its siblings; compared as plain strings. */
export const orderSchema = z
  .string()
  .regex(/^[0-9A-Za-z]+$/)
  .max(200)
