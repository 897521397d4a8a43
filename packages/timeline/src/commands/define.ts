import type { z } from 'zod'
import type { Edit } from '../edit/edit'

/** A kind of change: its name, the shape of its data, what it does, and how the history calls it. */
export interface CommandKind<S extends z.ZodObject = z.ZodObject> {
  readonly schema: S
  /** Carries it out on `edit`, or throws `CommandRefused`. */
  apply(edit: Edit, command: z.infer<S>): void
  /** A short name in the past for the history, such as "Split 2 clips". */
  describe(command: z.infer<S>): string
}

/** Ties the types of a command's parts together. */
export function defineCommand<S extends z.ZodObject>(kind: CommandKind<S>): CommandKind<S> {
  return kind
}

/** "1 clip", "3 clips". */
export function count(n: number, noun: string): string {
  return `${n} ${noun}${n === 1 ? '' : 's'}`
}
