import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, type EffectScope } from 'vue'
import { useLive } from '~/features/project/useLive'

/** A socket that does what the test says. */
class Socket {
  static readonly all: Socket[] = []
  readyState = 0
  onopen: (() => void) | null = null
  onclose: ((event: object) => void) | null = null
  onmessage: ((event: { data: string }) => void) | null = null

  constructor(readonly url: string) {
    Socket.all.push(this)
  }

  send(): void {}
  close(): void {}

  open(): void {
    this.readyState = 1
    this.onopen?.()
  }

  drop(): void {
    this.readyState = 3
    this.onclose?.({ code: 1006, reason: '' })
  }

  tell(event: object): void {
    this.onmessage?.({ data: JSON.stringify(event) })
  }
}

let scope: EffectScope
const hear = vi.fn()
const again = vi.fn()

beforeEach(() => {
  vi.useFakeTimers()
  Socket.all.length = 0
  hear.mockClear()
  again.mockClear()
  vi.stubGlobal('WebSocket', Socket)
  scope = effectScope()
  scope.run(() => useLive('p1', hear, again))
})
afterEach(() => {
  scope.stop()
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

describe('hearing of changes', () => {
  it('looks at everything once it is connected, at first and after each loss', async () => {
    expect(Socket.all[0]!.url).toMatch(/\/api\/live\?project=p1$/)
    // The first attempt fails: what happens until the second succeeds is told to nobody.
    Socket.all[0]!.drop()
    await vi.advanceTimersByTimeAsync(1100)
    expect(again).not.toHaveBeenCalled()
    Socket.all[1]!.open()
    expect(again).toHaveBeenCalledTimes(1)
    Socket.all[1]!.drop()
    await vi.advanceTimersByTimeAsync(1100)
    Socket.all[2]!.open()
    expect(again).toHaveBeenCalledTimes(2)
  })

  it('hands events on, and looks at everything where the studio itself missed some', () => {
    const [socket] = Socket.all
    socket!.open()
    socket!.tell({ kind: 'edit', projectId: 'p1', seq: 4 })
    expect(hear).toHaveBeenCalledWith({ kind: 'edit', projectId: 'p1', seq: 4 })
    socket!.tell({ kind: 'missed' })
    expect(hear).toHaveBeenCalledTimes(1)
    expect(again).toHaveBeenCalledTimes(2)
  })
})
