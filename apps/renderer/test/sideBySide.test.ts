import { describe, expect, it } from 'vitest'
import { sideBySide } from '../src/render/sideBySide'

/** Ends when its signal is aborted, a while after, and says so. */
const patient = (ended: string[], name: string) => async (signal: AbortSignal) => {
  await new Promise((resolve) => signal.addEventListener('abort', resolve, { once: true }))
  await new Promise((resolve) => setTimeout(resolve, 5))
  ended.push(name)
  throw signal.reason
}

describe('things done side by side', () => {
  it('begin together and return in their order', async () => {
    const begun: string[] = []
    const results = await sideBySide(undefined, [
      async () => {
        begun.push('slow')
        await new Promise((resolve) => setTimeout(resolve, 5))
        return 1
      },
      async () => `${begun.push('quick')}`,
    ])
    expect(begun).toEqual(['slow', 'quick'])
    expect(results).toEqual([1, '2'])
  })

  it('end with the first that fails, when all have ended, and for its reason', async () => {
    const ended: string[] = []
    const failing = async () => {
      throw new Error('torn')
    }
    await expect(sideBySide(undefined, [patient(ended, 'one'), failing, patient(ended, 'two')])).rejects.toThrow('torn')
    expect(ended).toEqual(['one', 'two'])
  })

  it('end with the signal, for its reason', async () => {
    const ended: string[] = []
    const cancel = new AbortController()
    const running = sideBySide(cancel.signal, [patient(ended, 'one'), patient(ended, 'two')])
    cancel.abort(new Error('enough'))
    await expect(running).rejects.toThrow('enough')
    expect(ended).toEqual(['one', 'two'])
  })

  it('end without waiting where the signal was aborted before', async () => {
    const cancel = AbortSignal.abort(new Error('too late'))
    const task = async (signal: AbortSignal) => signal.throwIfAborted()
    await expect(sideBySide(cancel, [task])).rejects.toThrow('too late')
  })
})
