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

/** What is told of work that waits for the bucket. */
export const BUCKET_AWAY = 'The bucket that media are kept in does not answer. It goes on by itself once it does.'

/** A bucket that does not answer, or answers that it can't just now. What is asked of it again later may succeed. */
export class BucketAway extends Error {
  constructor(cause: unknown) {
    super('The bucket that media are kept in does not answer.', { cause })
    this.name = 'BucketAway'
  }
}

/** Codes of a connection that was refused, lost, or never came about. */
const UNREACHED = /^(ECONN|ENOTFOUND|EAI_|EPIPE|ETIMEDOUT|EHOSTUNREACH|ENETUNREACH|ERR_STREAM_PREMATURE_CLOSE)/

/** Whether a client of a bucket failed because of the way there, or of the bucket itself, and not of what was asked. */
export function isUnreached(error: unknown): boolean {
  for (let at = error; at instanceof Error; at = at.cause) {
    const { code, $metadata } = at as NodeJS.ErrnoException & { $metadata?: { httpStatusCode?: number } }
    const status = $metadata?.httpStatusCode ?? 0
    if (status >= 500 || status === 429 || at.name === 'TimeoutError' || UNREACHED.test(code ?? '')) return true
  }
  return false
}

/** What work waits for that failed, to go on by itself later, in words; `null` where waiting does not help. */
export function waitsFor(error: unknown): string | null {
  if (isDiskFull(error)) return DISK_FULL
  for (let at = error; at instanceof Error; at = at.cause) if (at.name === 'BucketAway') return BUCKET_AWAY
  return null
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
