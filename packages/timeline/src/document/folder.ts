import { z } from 'zod'
import { idSchema, nameSchema, orderSchema } from './values'

/** A folder of the library; `parentId` is `null` at the top. */
export const folderSchema = z.object({
  id: idSchema,
  name: nameSchema,
  order: orderSchema,
  parentId: idSchema.nullable(),
})

export type Folder = z.infer<typeof folderSchema>
