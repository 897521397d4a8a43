import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { PROXY_PIECE } from '@dusk/timeline'
import { MissedFrames } from '~/features/player/missedFrames'

beforeEach(() => vi.useFakeTimers())
afterEach(() => vi.useRealTimers())

it('tells what is looked at last, once for each stretch, and again when it is looked at for long', async () => {
  const send = vi.fn(() => Promise.resolve())
  const missed = new MissedFrames(send)
  for (let frame = 0; frame < 30; frame++) missed.missed('/a', frame)
  missed.missed('/b', 700)
  await vi.advanceTimersByTimeAsync(600)
  expect(send.mock.calls).toEqual([
    ['/a', 29],
    ['/b', 700],
  ])
  missed.missed('/a', 31)
  await vi.advanceTimersByTimeAsync(600)
  expect(send).toHaveBeenCalledTimes(2)
  missed.missed('/a', PROXY_PIECE)
  await vi.advanceTimersByTimeAsync(600)
  expect(send).toHaveBeenLastCalledWith('/a', PROXY_PIECE)
  await vi.advanceTimersByTimeAsync(6000)
  missed.missed('/a', PROXY_PIECE + 1)
  await vi.advanceTimersByTimeAsync(600)
  expect(send).toHaveBeenCalledTimes(4)
})

it('tells again what the server did not hear', async () => {
  const send = vi.fn(() => Promise.reject(new Error('away')))
  const missed = new MissedFrames(send)
  missed.missed('/a', 5)
  await vi.advanceTimersByTimeAsync(600)
  missed.missed('/a', 6)
  await vi.advanceTimersByTimeAsync(600)
  expect(send.mock.calls).toEqual([
    ['/a', 5],
    ['/a', 6],
  ])
})
