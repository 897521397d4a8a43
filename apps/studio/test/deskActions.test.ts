import { describe, expect, it } from 'vitest'
import { useActionList } from '~/features/registry/feature'
import { openDesk } from './tools/desk'
import { SECOND } from './tools/server'

const frame = SECOND / 30

describe('the list of actions', () => {
  it('has one action for each id, and each runs on an empty desk without an error', async () => {
    const studio = await openDesk()
    const list = studio.within(useActionList)
    expect(new Set(list.map((action) => action.id)).size).toBe(list.length)
    for (const action of list) expect(() => action.run(), action.id).not.toThrow()
  })

  it('each runs on a full desk, and all of it can be undone', async () => {
    const studio = await openDesk()
    const [picture] = studio.pair(0, 60)
    studio.pair(60, 60, 120)
    const before = structuredClone(studio.project.document)
    for (const action of studio.within(useActionList)) {
      if (action.id.startsWith('edit.')) continue
      studio.desk.select([picture], studio.project.document)
      studio.player.seek(30 * frame)
      const done = studio.project.history.done.length
      expect(() => action.run(), action.id).not.toThrow()
      while (studio.project.history.done.length > done) studio.project.undo()
      expect(studio.project.document, action.id).toEqual(before)
    }
  })
})
