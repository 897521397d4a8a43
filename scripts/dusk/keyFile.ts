import { randomBytes } from 'node:crypto'
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { StepFailed } from './steps'

const SHORTEST = 32

/** The key that the practice board of a data folder is sent by whoever posts there. */
export const boardKeyOf = (data: string) => keyOf(data, 'board-key')

/**
 * The key of a data folder, made the first time: whoever can read it may do everything with the studio. Removing the
 * file ends the stay of every browser that was let in.
 * @throws {StepFailed} in words when it is there and broken
 */
export function keyOf(data: string, name = 'key'): string {
  const path = join(data, name)
  if (!existsSync(path)) writeFileSync(path, randomBytes(32).toString('base64url'), { mode: 0o600, flag: 'wx' })
  const key = readFileSync(path, 'utf8').trim()
  if (key.length < SHORTEST)
    throw new StepFailed(`${path} holds no key. Remove it: a new one is made, and browsers open a new link.`)
  return key
}
