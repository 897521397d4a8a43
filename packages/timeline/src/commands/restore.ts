import { z } from 'zod'
import { entitySchemas, type Entity, type EntityKind } from '../document/project'
import { nameSchema } from '../document/values'
import type { Change } from '../edit/edit'
import { refuse } from '../edit/refuse'
import { defineCommand } from './define'
import { sameData } from './same'

/** One entity before and after, each in the shape of its kind. */
const restored = <K extends EntityKind, S extends (typeof entitySchemas)[K]>(kind: K, schema: S) =>
  z.object({ kind: z.literal(kind), id: z.uuid(), from: schema.nullable(), to: schema.nullable() })

const changeSchema = z.discriminatedUnion('kind', [
  restored('assets', entitySchemas.assets),
  restored('reels', entitySchemas.reels),
  restored('tracks', entitySchemas.tracks),
  restored('clips', entitySchemas.clips),
  restored('transitions', entitySchemas.transitions),
  restored('markers', entitySchemas.markers),
  restored('picks', entitySchemas.picks),
  restored('folders', entitySchemas.folders),
])

/**
 * Puts entities back as they were: what undo and redo are made of. Refused when one of them is no longer as `from`
 * says, because another window changed it since.
 */
export const restore = defineCommand({
  schema: z.object({
    type: z.literal('restore'),
    /** What is being undone or done again, in the words of the history. */
    label: z.string().max(300),
    name: z.object({ from: nameSchema, to: nameSchema }).optional(),
    changes: z.array(changeSchema).max(20_000),
  }),
  apply(edit, { changes, name }) {
    if (name) {
      if (edit.name !== name.from) refuse('changed', 'The project was renamed in another window since.')
      edit.name = name.to
    }
    for (const { kind, id, from, to } of changes) {
      const now = edit.get(kind, id) ?? null
      if (!sameData(now, from)) refuse('changed', 'Another window changed this since, so it can’t be taken back.', [id])
      if (!to) edit.remove(kind, id)
      else if (to.id === id) edit.put(kind, to as Entity<EntityKind>)
      else refuse('id', 'What is to be put back has another id.', [id])
    }
  },
  describe: ({ label }) => label,
})

export type RestoreCommand = z.infer<typeof restore.schema>

/** The command that takes `changes` back. */
export function undoOf(changes: readonly Change[], label: string, name?: { from: string; to: string }): RestoreCommand {
  return {
    type: 'restore',
    label,
    ...(name ? { name: { from: name.to, to: name.from } } : {}),
    changes: changes.map(
      ({ kind, id, before, after }) => ({ kind, id, from: after, to: before }) as RestoreCommand['changes'][number],
    ),
  }
}

/** The command that undoes a restore. */
export function reverseRestore(command: RestoreCommand, label: string): RestoreCommand {
  return {
    type: 'restore',
    label,
    ...(command.name ? { name: { from: command.name.to, to: command.name.from } } : {}),
    changes: command.changes.map(
      ({ kind, id, from, to }) => ({ kind, id, from: to, to: from }) as RestoreCommand['changes'][number],
    ),
  }
}
