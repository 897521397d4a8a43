import { flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import OriginalNote from '~/features/viewer/OriginalNote.vue'
import { leftWords, timeLeft, usePreviewProgress } from '~/features/project/previewProgressStore'
import { openDesk } from './tools/desk'
import { HARBOUR, SONG } from './tools/server'

describe('how long previews still take', () => {
  it('is reckoned from what was done since it was seen, once that says enough', () => {
    expect(timeLeft({ from: 0.2, since: 1000, progress: 0.4, at: 5000 })).toBeCloseTo(12_000)
    expect(timeLeft({ from: 0.2, since: 1000, progress: 0.21, at: 5000 })).toBeNull()
    expect(timeLeft({ from: 0, since: 1000, progress: 0.5, at: 1500 })).toBeNull()
  })

  it('is said no finer than it can be known', () => {
    expect([300, 4100, 9900, 31_000, 89_000, 95_000, 600_000].map(leftWords)).toEqual([
      ...['1 s', '5 s', '10 s', '40 s', '90 s', '2 min', '10 min'],
    ])
  })
})

describe('a source whose preview is being made', () => {
  beforeEach(() => void vi.useFakeTimers({ toFake: ['performance'] }))
  afterEach(() => void vi.useRealTimers())

  it('says how far it is, on its own clock, and again from the start when it is begun again', async () => {
    const { project } = await openDesk()
    const previews = usePreviewProgress()
    const step = async (state: string, progress: number, ms: number, message: string | null = null) => {
      vi.advanceTimersByTime(ms)
      project.sources = { [HARBOUR.id]: { state, progress, message } } as never
      await flushPromises()
      return previews.wordsOf(HARBOUR.id)
    }
    expect(await step('waiting', 0, 0)).toBe('preview waits')
    expect(await step('working', 0.1, 100)).toBe('preview 10 %')
    expect(await step('working', 0.3, 4000)).toBe('preview 30 %, 20 s left')
    expect([...previews.unready]).toEqual([[HARBOUR.id, 'preview 30 %, 20 s left']])
    expect(await step('working', 0.05, 1000)).toBe('preview 5 %')
    expect(await step('waiting', 0.2, 1000, 'The disk is full.')).toBe('preview waits: the disk is full')
    expect(await step('failed', 0.5, 1000)).toBe('no preview could be made')
    await step('ready', 1, 1000)
    expect(previews.unready.size).toBe(0)
  })

  it('is named over the picture while the reel shows its original, and no longer', async () => {
    const studio = await openDesk()
    const note = studio.show(OriginalNote)
    const set = async (picture: object | null, more: object = {}) => {
      const state = { state: picture ? 'ready' : 'working', progress: 0.5, picture, ...more }
      studio.project.sources = {
        [HARBOUR.id]: state,
        [SONG.id]: { state: 'working', progress: 0.5, picture: null },
      } as never
      await flushPromises()
      return note.text()
    }
    expect(await set(null)).toBe('')
    studio.pair(0, 60)
    expect(await set(null)).toBe('harbour-wide.mp4 is shown from the original, which is slower; preview 50 %')
    // A file that is gone is said in another way.
    expect(await set(null, { missing: true })).toBe('')
    expect(await set({ url: '/x', width: 960, height: 540 })).toBe('')
  })
})
