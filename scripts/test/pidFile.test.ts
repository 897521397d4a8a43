import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, it, onTestFinished } from 'vitest'
import { runningProcess, writePidFile } from '../dusk/pidFile'

function path(): string {
  const dir = mkdtempSync(join(tmpdir(), 'dusk-pid-'))
  onTestFinished(() => rmSync(dir, { recursive: true, force: true }))
  return join(dir, 'dusk.pid')
}

it('finds a process that was written down, until it ends', async () => {
  const file = path()
  const child = spawn('sleep', ['60'])
  onTestFinished(() => void child.kill())
  writePidFile(file, child.pid)
  expect(runningProcess(file)).toBe(child.pid)
  child.kill()
  await once(child, 'exit')
  expect(runningProcess(file)).toBeNull()
})

it('does not take a stranger with the same number for it', () => {
  const file = path()
  writePidFile(file)
  const [pid, boot, ticks] = readFileSync(file, 'utf8').trim().split(' ')
  writeFileSync(file, `${pid} ${boot} ${Number(ticks) - 1}`)
  expect(runningProcess(file)).toBeNull()
  writeFileSync(file, `${pid} 00000000-0000-4000-8000-000000000000 ${ticks}`)
  expect(runningProcess(file)).toBeNull()
})

it('finds nothing in a file that is broken, of an earlier form, or not there', () => {
  const file = path()
  expect(runningProcess(file)).toBeNull()
  for (const text of ['', 'x', String(process.pid), '0 x 1', '-1 x 1']) {
    writeFileSync(file, text)
    expect(runningProcess(file)).toBeNull()
  }
})
