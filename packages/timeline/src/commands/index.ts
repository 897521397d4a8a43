import { z } from 'zod'
import type { Project } from '../document/project'
import { settle } from '../edit/carry'
import { Edit, type Change } from '../edit/edit'
import { CommandRefused } from '../edit/refuse'
import { patchesOf } from '../patches/diff'
import type { Patch } from '../patches/patch'
import { holdRules } from '../rules'
import { defineCommand, type CommandKind } from './define'
import { append, stackAbove, replace } from './arrange'
import { addAsset, renameAsset, removeAsset, removeAssets } from './assets'
import { copySettings } from './copySettings'
import { cutOut } from './cutOut'
import { duplicate } from './duplicate'
import { addEffects, moveEffect, removeEffects, setEffects } from './effects'
import { addFolder, setFolder, removeFolder, setAssets } from './folders'
import { freeze } from './freeze'
import { closeGap, closeGaps } from './gaps'
import { join } from './join'
import { link, unlink, group, ungroup, resync } from './links'
import { addMarkers, setMarker, removeMarkers } from './markers'
import { addGenerated, setTitle, setGenerator } from './generated'
import { move } from './move'
import { nest, unnest } from './nest'
import { setEach, setParams, setReelParams, setTrackParams } from './params'
import { paste } from './paste'
import { addSubclip, setSubclip, removeSubclip } from './subclips'
import { place } from './place'
import { addReel, duplicateReel, removeReel } from './reels'
import { recut } from './recut'
import { reorder } from './reorder'
import { remove } from './remove'
import { replaceSource } from './replaceSource'
import { restore } from './restore'
import { roll } from './roll'
import { setClips, setGains, setReel, renameProject } from './settings'
import { slide } from './slide'
import { slip } from './slip'
import { setPartSpeed, setSpeed, setSpeedCurve } from './speed'
import { split } from './split'
import { swap } from './swap'
import { addTake, chooseTake, record, removeTake } from './takes'
import { addTrack, setTrack, moveTrack, removeTrack } from './tracks'
import { addTransitions, setTransitions, removeTransitions } from './transitions'
import { setLengths, trim } from './trim'

/** Every kind of command that does one thing, by its type. */
const SINGLE = {
  addAsset,
  renameAsset,
  removeAsset,
  removeAssets,
  replaceSource,
  addFolder,
  setFolder,
  removeFolder,
  setAssets,
  addSubclip,
  setSubclip,
  removeSubclip,
  addReel,
  duplicateReel,
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
  setLengths,
  roll,
  slip,
  slide,
  split,
  join,
  freeze,
  recut,
  record,
  addTake,
  chooseTake,
  removeTake,
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
  addGenerated,
  setTitle,
  setGenerator,
  setParams,
  setEach,
  setTrackParams,
  setReelParams,
  addTransitions,
  setTransitions,
  removeTransitions,
  addEffects,
  setEffects,
  moveEffect,
  removeEffects,
  copySettings,
  setSpeed,
  setSpeedCurve,
  setPartSpeed,
  setGains,
  setClips,
  setReel,
  renameProject,
  restore,
} as const

type Kinds = typeof SINGLE
type SingleCommand = { [Type in keyof Kinds]: z.infer<Kinds[Type]['schema']> }[keyof Kinds]
/** A command that does one thing, before defaults are filled in. */
export type SingleInput = { [Type in keyof Kinds]: z.input<Kinds[Type]['schema']> }[keyof Kinds]

type Schemas = [z.ZodObject, ...z.ZodObject[]]
const schemasOf = (kinds: Record<string, unknown>) =>
  Object.values(kinds).map((kind) => (kind as CommandKind).schema) as unknown as Schemas

const singleSchema = z.discriminatedUnion('type', schemasOf(SINGLE)) as unknown as z.ZodType<SingleCommand, SingleInput>

/** Several commands that are one gesture: all are carried out, or none; one entry of the history, one undo. */
const batch = defineCommand({
  schema: z.object({
    type: z.literal('batch'),
    /** What the history calls it, in the past, such as "Evened out light". */
    label: z.string().trim().min(1).max(300),
    commands: z.array(singleSchema).min(1).max(5000),
  }),
  apply(edit, { commands }) {
    for (const command of commands) {
      kindOf(command).apply(edit, command as never)
      settle(edit)
    }
  },
  describe: ({ label }) => label,
})

/** Every kind of command by its type. */
export const COMMANDS = { ...SINGLE, batch } as const

export type Command = SingleCommand | z.infer<typeof batch.schema>
/** A command before defaults are filled in. */
export type CommandInput = SingleInput | z.input<typeof batch.schema>

/** A command as data, checked. What the API, the desk, tests and other windows exchange. */
export const commandSchema = z.discriminatedUnion('type', schemasOf(COMMANDS)) as unknown as z.ZodType<
  Command,
  CommandInput
>

const kindOf = (command: Command) => COMMANDS[command.type] as unknown as CommandKind

/** A document after a command, with the entities that changed and the patches that lead to it. */
export interface Applied {
  project: Project
  changes: Change[]
  patches: Patch[]
}

/**
 * Carries out a command on a document and returns the new one; the old one is not touched.
 * @param seed the command's own UUID; ids of entities it makes follow from it, so every machine makes the same ones
 * @throws {CommandRefused} with a sentence for the person when a rule forbids it
 */
export function applyCommand(project: Project, command: Command, seed: string): Applied {
  const edit = new Edit(project, seed)
  kindOf(command).apply(edit, command as never)
  settle(edit)
  const changes = edit.changes()
  const patches = patchesOf(changes, { from: project.name, to: edit.name })
  holdRules(edit, patches)
  return { project: edit.finish(), changes, patches }
}

/** What the history calls a command. */
export function describeCommand(command: Command): string {
  return kindOf(command).describe(command as never)
}

export { CommandRefused }
