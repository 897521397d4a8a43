import { applyCommand, commandSchema, CommandRefused, Edit, type CommandInput, type Project } from '@dusk/timeline'

/** What is only tried out makes entities by this id; none of them is ever kept. */
const TRIAL = '00000000-0000-4000-8000-000000000000'

/**
 * A document with a command carried out, without anybody having asked for it; `null` where it is refused.
 * @param seed what it makes has ids of it: another for each of several commands
 */
export function tried(project: Project, input: CommandInput, seed = TRIAL): ReturnType<typeof applyCommand> | null {
  try {
    return applyCommand(project, commandSchema.parse(input), seed)
  } catch (error) {
    if (error instanceof CommandRefused) return null
    throw error
  }
}

/** Why a command would be refused, in words; `null` where it is not, or would change nothing. */
export function refusalOf(project: Project, input: CommandInput): string | null {
  try {
    applyCommand(project, commandSchema.parse(input), TRIAL)
    return null
  } catch (error) {
    if (error instanceof CommandRefused) return error.rule === 'nothing' ? null : error.message
    throw error
  }
}

/** A document opened for asking what could be done to it: limits of trims, room for transitions. */
export const trialEdit = (project: Project): Edit => new Edit(project, TRIAL)
