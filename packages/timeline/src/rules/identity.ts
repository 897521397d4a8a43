import { entitySchemas } from '../document/project'
import { ALL_KINDS, defineRule } from './rule'

/** Kinds that come from outside the edit itself, such as from the reading in of a file, and few at a time. */
const HELD = ['assets', 'reels', 'tracks', 'folders'] as const

/** What enters a document is in the shape that documents are read by. */
export const shape = defineRule({
  name: 'shape',
  about: HELD,
  check(view, touched, broken) {
    for (const kind of HELD)
      for (const entity of touched.of(view, kind)) {
        const held = entitySchemas[kind].safeParse(entity)
        if (held.success) continue
        const issue = held.error.issues[0]!
        broken(`${entity.name}: ${issue.path.join('.')} — ${issue.message}`, entity.id)
      }
  },
})

/** Every entity lies under its own id. */
export const identity = defineRule({
  name: 'id',
  about: ALL_KINDS,
  check(view, touched, broken) {
    for (const kind of ALL_KINDS)
      for (const { id } of touched.of(view, kind))
        if (view.get(kind, id)?.id !== id) broken('Something lies under another id than its own.', id)
  },
})
