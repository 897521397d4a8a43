import { clipsOn } from '../document/query'
import type { Project } from '../document/project'
import { reading } from '../document/source'
import type { Edit } from '../edit/edit'
import { refuse } from '../edit/refuse'
import type { Patch } from '../patches/patch'
import { cycles } from './cycles'
import { effects } from './effects'
import { identity, shape } from './identity'
import { kinds } from './kinds'
import { links } from './links'
import { markers } from './markers'
import { bounds, grid, overlap } from './placement'
import { references } from './references'
import { Touched, type Rule } from './rule'
import { transitions } from './transitions'

/** The rule book: all that has to hold in a document beyond the shape of its entities. */
export const RULES: readonly Rule[] = [
  references,
  shape,
  identity,
  kinds,
  bounds,
  grid,
  overlap,
  links,
  cycles,
  markers,
  transitions,
  effects,
]

/** A rule of the document that does not hold. */
export interface Problem {
  rule: string
  message: string
  ids: string[]
}

/** Every rule that a document breaks; the empty list means all is well. */
export function check(project: Project): Problem[] {
  const problems: Problem[] = []
  const view = { ...reading(project), clipsOn: (trackId: string) => clipsOn(project, trackId) }
  for (const rule of RULES)
    rule.check(view, Touched.everything(), (message, ...ids) => problems.push({ rule: rule.name, message, ids }))
  for (const [kind, map] of Object.entries(project))
    if (typeof map === 'object')
      for (const [id, entity] of Object.entries(map as Record<string, { id: string }>))
        if (entity.id !== id)
          problems.push({ rule: 'id', message: `${kind} holds ${entity.id} under ${id}.`, ids: [id] })
  return problems
}

/**
 * Looks whether a change keeps the rules it can break. Every change goes through here: commands, what is taken back,
 * and what comes from other windows.
 * @param patches what the change comes to
 * @throws {CommandRefused} with the first rule that would be broken, in its words
 */
export function holdRules(edit: Edit, patches: readonly Patch[]): void {
  const touched = Touched.by(patches)
  // A push moves thousands of clips, and only rules about time can care.
  const changed = Touched.by(patches.filter((patch) => patch.op !== 'shift'))
  for (const rule of RULES) {
    const looked = rule.time ? touched : changed
    if (looked.any(...rule.about)) rule.check(edit, looked, (message, ...ids) => refuse(rule.name, message, ids))
  }
}
