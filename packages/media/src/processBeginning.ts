import { readFileSync } from 'node:fs'

/**
 * When a process began: the machine's boot and the ticks since then. Numbers of processes are given anew, after a power
 * cut to any program; this tells ours from a stranger that has its number now. `null` when there is no such process.
 */
export function processBeginning(pid: number): string | null {
  try {
    const boot = readFileSync('/proc/sys/kernel/random/boot_id', 'utf8').trim()
    // The name of the program stands in brackets and may hold anything; the fields behind it begin with the third.
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8')
    const fields = stat.slice(stat.lastIndexOf(')') + 2).split(' ')
    // A process that has ended and whose end nobody has taken note of is gone.
    return fields[0] === 'Z' ? null : `${boot} ${fields[22 - 3]}`
  } catch {
    return null
  }
}
