import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { PROXY_PIECE, TICKS_PER_SECOND, type Asset } from '@dusk/timeline'
import type { SourceState } from '../server/utils/sources'
import { MissedFrames } from '~/features/player/missedFrames'
import { pointedAt } from '~/features/player/pointedAt'

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

it('tells of the piece that is gone back to, not of the one that was passed on the way', async () => {
  const send = vi.fn(() => Promise.resolve())
  const missed = new MissedFrames(send)
  missed.missed('/a', 2 * PROXY_PIECE)
  await vi.advanceTimersByTimeAsync(600)
  missed.missed('/a', 0)
  missed.missed('/a', 2 * PROXY_PIECE + 9)
  await vi.advanceTimersByTimeAsync(600)
  expect(send.mock.calls).toEqual([
    ['/a', 2 * PROXY_PIECE],
    ['/a', 2 * PROXY_PIECE + 9],
  ])
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

it('asks for what the pointer is over, by the rate of the source, until that is there', async () => {
  const asked = vi.fn((_url: string, _init: RequestInit) => Promise.resolve(new Response('{}')))
  vi.stubGlobal('fetch', asked)
  const asset = { picture: { rate: { num: 30_000, den: 1001 } } } as Asset
  const source = (there: number[]) => ({ pieces: { url: '/a', there, nearUrl: '/near' } }) as unknown as SourceState
  pointedAt(asset, source([]), 20 * TICKS_PER_SECOND)
  await vi.advanceTimersByTimeAsync(600)
  expect(asked.mock.calls.map(([url, { body }]) => [url, JSON.parse(String(body))])).toEqual([
    ['/near', { frame: 599 }],
  ])
  // It is there, there is a proxy, or it is a sound: nothing to ask for.
  pointedAt(asset, source([0, 4]), 40 * TICKS_PER_SECOND)
  pointedAt(asset, { pieces: null } as SourceState, 20 * TICKS_PER_SECOND)
  pointedAt({ picture: null } as Asset, source([]), 20 * TICKS_PER_SECOND)
  await vi.advanceTimersByTimeAsync(600)
  expect(asked).toHaveBeenCalledTimes(1)
})
