import { entitySchemas } from '../document/project'
import { ALL_KINDS, defineRule } from './rule'

/** What is in a document is in the shape that documents are read by, or it could not be opened again. */
export const shape = defineRule({
  name: 'shape',
  about: ALL_KINDS,
  check(view, touched, broken) {
    for (const kind of ALL_KINDS)
      for (const entity of touched.of(view, kind)) {
        const held = entitySchemas[kind].safeParse(entity)
        if (held.success) continue
        const issue = held.error.issues[0]!
        const named = 'name' in entity && entity.name ? `${entity.name}: ` : ''
        broken(`${named}${issue.path.join('.')} — ${issue.message}`, entity.id)
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
