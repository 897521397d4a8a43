import { z } from 'zod'
import { idSchema, nameSchema, orderSchema, ticksSchema } from './values'

/** A part of a source that was found good: from `from` to `to`, ticks of source time, half-open. */
export const subclipSchema = z.object({
  id: idSchema,
  assetId: idSchema,
  name: nameSchema,
  order: orderSchema,
  from: ticksSchema,
  to: ticksSchema,
})

export type Subclip = z.infer<typeof subclipSchema>
