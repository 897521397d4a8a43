import { z } from 'zod'

/** A number in a project's log as it stands in an address: whole, and no larger than the database's column holds. */
export const sequenceSchema = z.coerce
  .number()
  .int()
  .min(0)
  .max(2 ** 31 - 1)
