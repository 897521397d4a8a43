import { describe, expect, it } from 'vitest'
import { useActionList } from '~/features/registry/feature'
import { openDesk } from './tools/desk'
import { SECOND } from './tools/server'

const frame = SECOND / 30

describe('the list of actions', () => {
  it('has one action for each id', async () => {
    const studio = await openDesk()
    const ids = studio.within(useActionList).map((action) => action.id)
    expect(new Set(ids).size).toBe(ids.length)
  })

  it.each(['an empty desk', 'a full desk'])('each runs on %s, and all of it can be undone', async (which) => {
    const studio = await openDesk()
    const pairs = which === 'a full desk' ? [studio.pair(0, 60), studio.pair(60, 60, 120)] : []
    const before = structuredClone(studio.project.document)
    for (const action of studio.within(useActionList)) {
      if (action.id.startsWith('edit.')) continue
      studio.desk.select(
        pairs.slice(0, 1).map(([picture]) => picture),
        studio.project.document,
      )
      studio.player.seek(30 * frame)
      const done = studio.project.history.done.length
      action.run()
      while (studio.project.history.done.length > done) studio.project.undo()
      expect(studio.project.document, action.id).toEqual(before)
    }
  })
})
