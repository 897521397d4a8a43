import { z } from 'zod'
import type { Project } from '../document/project'
import { Edit, type Change } from '../edit/edit'
import { CommandRefused } from '../edit/refuse'
import { addAsset, removeAsset, renameAsset } from './assets'
import type { CommandKind } from './define'
import { move } from './move'
import { place } from './place'
import { closeGap, remove } from './remove'
import { restore } from './restore'
import { renameProject, setClips, setReel } from './settings'
import { split } from './split'
import { addTrack, removeTrack, setTrack } from './tracks'
import { trim } from './trim'
import { refuseOutside } from './bounds'

/** Every kind of command by its type. */
export const COMMANDS = {
  addAsset,
  renameAsset,
  removeAsset,
  addTrack,
  setTrack,
  removeTrack,
  place,
  move,
  trim,
  split,
  remove,
  closeGap,
  setClips,
  setReel,
  renameProject,
  restore,
} as const

/** A command as data, checked. What the API, the desk, tests and other windows exchange. */
export const commandSchema = z.discriminatedUnion('type', [
  addAsset.schema,
  renameAsset.schema,
  removeAsset.schema,
  addTrack.schema,
  setTrack.schema,
  removeTrack.schema,
  place.schema,
  move.schema,
  trim.schema,
  split.schema,
  remove.schema,
  closeGap.schema,
  setClips.schema,
  setReel.schema,
  renameProject.schema,
  restore.schema,
])

export type Command = z.infer<typeof commandSchema>
/** A command before defaults are filled in. */
export type CommandInput = z.input<typeof commandSchema>

/** A document after a command, with what changed. */
export interface Applied {
  project: Project
  changes: Change[]
}

/**
 * Carries out a command on a document and returns the new one; the old one is not touched.
 * @param seed the command's own UUID; ids of entities it makes follow from it, so every machine makes the same ones
 * @throws {CommandRefused} with a sentence for the person when a rule forbids it
 */
export function applyCommand(project: Project, command: Command, seed: string): Applied {
  const edit = new Edit(project, seed)
  const kind = COMMANDS[command.type] as unknown as CommandKind
  kind.apply(edit, command as never)
  refuseOutside(edit)
  return { project: edit.finish(), changes: edit.changes() }
}

/** What the history calls a command. */
export function describeCommand(command: Command): string {
  return (COMMANDS[command.type] as unknown as CommandKind).describe(command as never)
}

export { CommandRefused }
