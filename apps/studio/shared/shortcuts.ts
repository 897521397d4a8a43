import { z } from 'zod'

/** Keys by action: each as `Shift X`, `Ctrl Z`, `Delete`; an action may have several. */
export const bindingsSchema = z.record(z.string().max(60), z.array(z.string().min(1).max(40)).max(6))

/** Named sets of shortcuts and which of them is in force; the shipped set is always there and not stored. */
export const shortcutSetsSchema = z.object({
  active: z.string().max(60),
  sets: z.record(z.string().min(1).max(60), bindingsSchema),
})

/** A file with one set, for taking to another machine. */
export const shortcutFileSchema = z.object({
  format: z.literal('dusk-reel-shortcuts'),
  version: z.literal(1),
  name: z.string().trim().min(1).max(60),
  keys: bindingsSchema,
})

export type Bindings = z.infer<typeof bindingsSchema>
export type ShortcutSets = z.infer<typeof shortcutSetsSchema>
