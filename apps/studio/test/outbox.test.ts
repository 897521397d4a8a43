import { describe, expect, it } from 'vitest'
import { createStore, entries, set } from 'idb-keyval'
import type { SentCommand } from '@dusk/timeline'
import { batchOf, Outbox } from '~/features/project/outbox'

const rename = (n: number, name: string): SentCommand => ({
  id: `00000000-0000-4000-8000-${n.toString(16).padStart(12, '0')}`,
  command: { type: 'renameProject', name },
})

describe('what is sent together', () => {
  it('counts what is sent, not the documents that wait beside it', () => {
    const after = { name: 'x'.repeat(3_000_000) }
    const pending = [1, 2, 3].map((n) => ({ ...rename(n, 'Dusk'), after }))
    expect(batchOf(pending)).toEqual(pending)
  })

  it('ends before it grows too large, and sends what is too large by itself', () => {
    const [small, large] = [rename(1, 'Dusk'), rename(2, 'x'.repeat(2_100_000))]
    expect(batchOf([small, large, small])).toEqual([small])
    expect(batchOf([large, small])).toEqual([large])
    expect(batchOf(Array.from({ length: 300 }, (_, n) => rename(n, 'Dusk')))).toHaveLength(200)
  })
})

describe('the outbox', () => {
  const projectId = '00000000-0000-4000-8000-0000000000aa'

  it('gives a later page what was not sent, in order, of its own project only', async () => {
    const box = new Outbox(projectId)
    const other = new Outbox('00000000-0000-4000-8000-0000000000bb')
    for (const n of [3, 1, 2]) box.add(rename(n, `Name ${n}`))
    other.add(rename(9, 'Elsewhere'))
    box.remove([rename(1, '').id])
    await Promise.all([box.settled(), other.settled()])
    expect(await new Outbox(projectId).load()).toEqual({
      sent: [rename(3, 'Name 3'), rename(2, 'Name 2')],
      unreadable: 0,
    })
  })

  it('drops rows that this version does not know, and keeps the others', async () => {
    const rows = createStore('dusk-outbox', 'edits')
    await set(`${projectId}/000000000099`, { id: 'x', command: { type: 'unheardOf' } }, rows)
    const box = new Outbox(projectId)
    const { sent, unreadable } = await box.load()
    expect(unreadable).toBe(1)
    expect(sent.map(({ command }) => command.type)).toEqual(['renameProject', 'renameProject'])
    await box.settled()
    expect((await entries(rows)).some(([key]) => String(key).endsWith('99'))).toBe(false)
  })
})
