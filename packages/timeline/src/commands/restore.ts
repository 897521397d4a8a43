import { z } from 'zod'
import { applyPatches } from '../patches/apply'
import { invertPatches, patchSchema, type Patch } from '../patches/patch'
import { defineCommand } from './define'

/**
 * Puts values back as they were: what undo, redo and going back in the history are made of. Refused when one of them is
 * no longer as the patch says, because another window changed it since, or when a rule of the document forbids it now.
 */
export const restore = defineCommand({
  schema: z.object({
    type: z.literal('restore'),
    /** What is being undone or done again, in the words of the history. */
    label: z.string().max(300),
    patches: z.array(patchSchema).max(200_000),
  }),
  apply: (edit, { patches }) => applyPatches(edit, patches),
  describe: ({ label }) => label,
})

export type RestoreCommand = z.infer<typeof restore.schema>

/** The command that takes what came of an edit back. */
export function undoCommand(label: string, patches: readonly Patch[]): RestoreCommand {
  return { type: 'restore', label: `Took back: ${label}`.slice(0, 300), patches: invertPatches(patches) }
}

/** The command that does an edit again that was taken back. */
export function redoCommand(label: string, patches: readonly Patch[]): RestoreCommand {
  return { type: 'restore', label: `Did again: ${label}`.slice(0, 300), patches: [...patches] }
}
