import { ToolError } from './tool'

/** What is told of work that waits for room. */
export const DISK_FULL = 'The disk is full. It goes on by itself once there is room.'

/** Codes for a full disk or quota: the system's, and PostgreSQL's (`disk_full`). */
const FULL = new Set(['ENOSPC', 'EDQUOT', '53100'])

/** Whether something failed because a disk is full, as the system, a program or the database says. */
export function isDiskFull(error: unknown): boolean {
  for (let at = error; at instanceof Error; at = at.cause) {
    if (FULL.has((at as NodeJS.ErrnoException).code ?? '')) return true
    if (at instanceof ToolError && /No space left on device|Disk quota exceeded|ENOSPC/.test(at.log)) return true
  }
  return false
}

/** Codes of a program that was not there, or not allowed to run. */
const NOT_RUN = new Set([126, 127])
/** What a program says where the machine failed it: a share that went away, a file that was moved, no memory. */
const MACHINE =
  /Input\/output error|No such file or directory|Permission denied|Cannot allocate memory|Stale file handle/

/** Whether a program gave up on what it read: not because it was killed or missing, nor for a fault of the machine. */
export function isUndecodable(error: unknown): error is ToolError {
  if (!(error instanceof ToolError) || error.code === null || NOT_RUN.has(error.code)) return false
  return !isDiskFull(error) && !MACHINE.test(error.log)
}
