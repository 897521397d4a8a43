import { spawn, type ChildProcess } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, afterEach, describe, expect, it, vi } from 'vitest'
import { Keeper } from '../dusk/keeper'
import { readState, removeState, writeState } from '../dusk/stateFile'

const dir = mkdtempSync(join(tmpdir(), 'dusk-keeper-'))
afterAll(() => rmSync(dir, { recursive: true, force: true }))

describe('a process that is kept up', () => {
  let keeper: Keeper | null = null
  afterEach(() => keeper?.stop())
  const sleeper = () => spawn('sleep', ['60'])

  it('is started again when it ends by itself, said in words, with pauses that grow', async () => {
    const said: string[] = []
    const begun: ChildProcess[] = []
    const start = () => {
      const child = sleeper()
      begun.push(child)
      return child
    }
    keeper = new Keeper('The studio', start, (line) => said.push(line), undefined, [0.01, 0.02, 0.04])
    keeper.begin()
    for (let n = 1; n <= 3; n++) {
      begun.at(-1)!.kill('SIGKILL')
      await vi.waitFor(() => expect(begun).toHaveLength(n + 1))
    }
    expect(said.map((line) => /in ([\d.]+) s/.exec(line)![1])).toEqual(['0.01', '0.02', '0.04'])
    expect(said[0]).toContain('The studio stopped by itself (SIGKILL)')
    expect(keeper.state).toEqual({ pid: begun.at(-1)!.pid, restarts: 3 })
  })

  it('ends for good when it is told to, and begins anew without counting as broken', async () => {
    const said: string[] = []
    let begun = 0
    const start = () => {
      begun++
      return sleeper()
    }
    keeper = new Keeper('The worker', start, (line) => said.push(line), undefined, [0.01])
    // What was not begun yet has nothing to begin anew.
    await keeper.renew()
    expect(begun).toBe(0)
    keeper.begin()
    await keeper.renew()
    expect([begun, keeper.state.restarts]).toEqual([2, 0])
    await keeper.stop()
    await new Promise((resolve) => setTimeout(resolve, 60))
    expect([begun, said]).toEqual([2, []])
  })
})

describe('how it stands', () => {
  const state = {
    reach: { origin: 'http://127.0.0.1:4870', certificate: null },
    shown: 'http://127.0.0.1:4870',
    ...{ since: 1, studio: { pid: 7, restarts: 0 }, worker: { pid: null, restarts: 2 } },
    database: { restarts: 1 },
  }
  it('is written down and read, and anything else is nothing', () => {
    expect(readState(dir)).toBeNull()
    writeState(dir, state)
    expect(readState(dir)).toEqual(state)
    writeFileSync(join(dir, 'dusk.json'), '{"port": "x"')
    expect(readState(dir)).toBeNull()
    removeState(dir)
    expect(readState(dir)).toBeNull()
  })
})
