import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { processBeginning } from '@dusk/media/processBeginning'

/** Writes down a process, this one unless another is named, so that `runningProcess` finds it again. */
export function writePidFile(path: string, pid = process.pid): void {
  writeFileSync(path, `${pid} ${processBeginning(pid)}\n`)
}

/** Number of the process that was written down, when that very process still runs; else `null`. */
export function runningProcess(path: string): number | null {
  if (!existsSync(path)) return null
  const [, number, beginning] = /^(\d+) (.+)$/m.exec(readFileSync(path, 'utf8')) ?? []
  const pid = Number(number)
  return pid > 1 && processBeginning(pid) === beginning ? pid : null
}
