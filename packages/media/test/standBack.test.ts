import { spawn } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { sayWaiting, saidWaiting, StandBack, WAITING_MS } from '../src/index'
import { folder } from './helpers'

const dir = folder()
const children: ReturnType<typeof spawn>[] = []
afterEach(() => {
  for (const child of children.splice(0)) child.kill('SIGKILL')
})

function busy() {
  const child = spawn('sleep', ['60'])
  children.push(child)
  return child
}

/** Whether a process stands still (state T in proc(5)). */
const stands = (child: ReturnType<typeof spawn>) =>
  / T /.test(readFileSync(`/proc/${child.pid}/stat`, 'latin1').slice(0, 60))

describe('programs that nobody waits for', () => {
  it('stand still while somebody waits, those that begin then too, and go on after', async () => {
    let waiting = true
    const back = new StandBack(async () => waiting)
    const [one, other] = [busy(), busy()]
    back.add(one)
    await vi.waitFor(() => expect(stands(one)).toBe(true), 5000)
    back.add(other)
    await vi.waitFor(() => expect(stands(other)).toBe(true), 5000)
    waiting = false
    await vi.waitFor(() => expect([stands(one), stands(other)]).toEqual([false, false]), 5000)
  })

  it('go on after a while although somebody still waits, and can be ended while they stand', async () => {
    const back = new StandBack(async () => true)
    const child = busy()
    back.add(child)
    await vi.waitFor(() => expect(stands(child)).toBe(true), 5000)
    await vi.waitFor(() => expect(stands(child)).toBe(false), 15_000)
    await vi.waitFor(() => expect(stands(child)).toBe(true), 15_000)
    const ended = new Promise((resolve) => child.once('close', resolve))
    child.kill('SIGKILL')
    await ended
  })

  it('hear of it from another process by a file, for a moment', async () => {
    const path = join(dir, 'media/waiting')
    expect(await saidWaiting(path)).toBe(false)
    await sayWaiting(path)
    expect(await saidWaiting(path)).toBe(true)
    await new Promise((resolve) => setTimeout(resolve, WAITING_MS + 100))
    expect(await saidWaiting(path)).toBe(false)
    await sayWaiting(path)
    expect(await saidWaiting(path)).toBe(true)
  })
})
