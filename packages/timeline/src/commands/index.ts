import { z } from 'zod'
import type { Project } from '../document/project'
import { settle } from '../edit/carry'
import { Edit, type Change } from '../edit/edit'
import { CommandRefused } from '../edit/refuse'
import { refuseOutside, refuseOverlaps, refuseTornLinks } from './bounds'
import type { CommandKind } from './define'
import { append, stackAbove, replace } from './arrange'
import { addAsset, renameAsset, removeAsset } from './assets'
import { copySettings } from './copySettings'
import { cutOut } from './cutOut'
import { duplicate } from './duplicate'
import { addFolder, setFolder, removeFolder, setAssets } from './folders'
import { freeze } from './freeze'
import { closeGap, closeGaps } from './gaps'
import { join } from './join'
import { link, unlink, group, ungroup, resync } from './links'
import { addMarkers, setMarker, removeMarkers } from './markers'
import { addMade, setTitle, setGenerator } from './made'
import { move } from './move'
import { nest, unnest } from './nest'
import { setEach, setParams, setTrackParams } from './params'
import { paste } from './paste'
import { addPick, setPick, removePick } from './picks'
import { place } from './place'
import { addReel, removeReel } from './reels'
import { reorder } from './reorder'
import { remove } from './remove'
import { restore } from './restore'
import { roll } from './roll'
import { setClips, setReel, renameProject } from './settings'
import { slide } from './slide'
import { slip } from './slip'
import { split } from './split'
import { swap } from './swap'
import { addTrack, setTrack, moveTrack, removeTrack } from './tracks'
import { addTransitions, setTransitions, removeTransitions } from './transitions'
import { trim } from './trim'

/** Every kind of command by its type. */
export const COMMANDS = {
  addAsset,
  renameAsset,
  removeAsset,
  addFolder,
  setFolder,
  removeFolder,
  setAssets,
  addPick,
  setPick,
  removePick,
  addReel,
  removeReel,
  nest,
  unnest,
  addTrack,
  setTrack,
  moveTrack,
  removeTrack,
  place,
  append,
  stackAbove,
  replace,
  paste,
  duplicate,
  move,
  swap,
  reorder,
  trim,
  roll,
  slip,
  slide,
  split,
  join,
  freeze,
  remove,
  cutOut,
  closeGap,
  closeGaps,
  link,
  unlink,
  group,
  ungroup,
  resync,
  addMarkers,
  setMarker,
  removeMarkers,
  addMade,
  setTitle,
  setGenerator,
  setParams,
  setEach,
  setTrackParams,
  addTransitions,
  setTransitions,
  removeTransitions,
  copySettings,
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
  addFolder.schema,
  setFolder.schema,
  removeFolder.schema,
  setAssets.schema,
  addPick.schema,
  setPick.schema,
  removePick.schema,
  addReel.schema,
  removeReel.schema,
  nest.schema,
  unnest.schema,
  addTrack.schema,
  setTrack.schema,
  moveTrack.schema,
  removeTrack.schema,
  place.schema,
  append.schema,
  stackAbove.schema,
  replace.schema,
  paste.schema,
  duplicate.schema,
  move.schema,
  swap.schema,
  reorder.schema,
  trim.schema,
  roll.schema,
  slip.schema,
  slide.schema,
  split.schema,
  join.schema,
  freeze.schema,
  remove.schema,
  cutOut.schema,
  closeGap.schema,
  closeGaps.schema,
  link.schema,
  unlink.schema,
  group.schema,
  ungroup.schema,
  resync.schema,
  addMarkers.schema,
  setMarker.schema,
  removeMarkers.schema,
  addMade.schema,
  setTitle.schema,
  setGenerator.schema,
  setParams.schema,
  setEach.schema,
  setTrackParams.schema,
  addTransitions.schema,
  setTransitions.schema,
  removeTransitions.schema,
  copySettings.schema,
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
  settle(edit)
  refuseOutside(edit)
  refuseTornLinks(edit)
  refuseOverlaps(edit)
  return { project: edit.finish(), changes: edit.changes() }
}

/** What the history calls a command. */
export function describeCommand(command: Command): string {
  return (COMMANDS[command.type] as unknown as CommandKind).describe(command as never)
}

export { CommandRefused }
