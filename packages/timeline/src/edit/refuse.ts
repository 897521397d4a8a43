/** Why a command could not be carried out, in words for the person. Nothing was changed. */
export class CommandRefused extends Error {
  constructor(
    readonly rule: string,
    message: string,
    readonly ids: string[] = [],
  ) {
    super(message)
    this.name = 'CommandRefused'
  }
}

/** Stops a command. `rule` is a short stable word for programs, `message` a sentence for people. */
export function refuse(rule: string, message: string, ids: string[] = []): never {
  throw new CommandRefused(rule, message, ids)
}
