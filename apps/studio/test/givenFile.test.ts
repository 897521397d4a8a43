import { flushPromises } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import { clipEnd, type AssetFacts } from '@dusk/timeline'
import GivenFile from '~/features/library/GivenFile.vue'
import { useNotices } from '~/features/ui/noticesStore'
import { windowId } from '~/features/ui/windowId'
import { openDesk } from './tools/desk'
import { button } from './tools/fields'
import { HARBOUR, id, SECOND } from './tools/server'

const OTHER = id(0xb1)

/** The dialog's content where it stands, instead of in a layer above the page. */
const inPlace = {
  global: { stubs: { DialogFrame: { props: ['title'], template: '<div role="dialog">{{ title }}<slot /></div>' } } },
}

/** The desk with ten seconds of harbour in the reel, and a file given for them by this window or another. */
async function given(change: Partial<AssetFacts>, from?: string) {
  const studio = await openDesk()
  studio.pair(0, 300)
  studio.project.perform({ type: 'addAsset', asset: { ...HARBOUR, id: OTHER, name: 'harbour-again.mp4', ...change } })
  const givenFor = { assetId: HARBOUR.id, windowId: from ?? windowId() }
  studio.project.sources = { [OTHER]: { state: 'ready', givenFor } } as never
  const shown = studio.show(GivenFile, {}, inPlace)
  await flushPromises()
  const clips = () => Object.values(studio.project.document!.clips)
  const dialog = () => (shown.find('[role=dialog]').exists() ? shown.get('[role=dialog]').text() : '')
  const press = async (label: string) => {
    await button(shown, label).trigger('click')
    await flushPromises()
  }
  const ended = () => studio.server.calls.some(({ method, path }) => `${method} ${path}` === `DELETE /assets/${OTHER}`)
  return { studio, clips, dialog, press, ended }
}

describe('a file that was given for a source', () => {
  it('takes its place at once where nothing is lost, and is taken back by the notice', async () => {
    const { studio, clips, dialog, ended } = await given({})
    expect(dialog()).toBe('')
    expect(clips().map((clip) => clip.kind === 'media' && clip.assetId)).toEqual([OTHER, OTHER])
    expect(ended()).toBe(true)
    useNotices().list.at(-1)!.actions[0]!.run()
    await flushPromises()
    expect(clips().map((clip) => clip.kind === 'media' && clip.assetId)).toEqual([HARBOUR.id, HARBOUR.id])
    // What was decided once is not asked again.
    expect(studio.project.document!.assets[OTHER]).toBeDefined()
  })

  it('says what would be lost, pair by pair, and does nothing before it is told to', async () => {
    const sounds = [{ channels: 2, length: 7 * SECOND, title: '' }]
    const { studio, clips, dialog, press } = await given({ length: 7 * SECOND, sounds })
    expect(dialog()).toContain('harbour-wide.mp4 ends 3.00 s earlier')
    expect(dialog().match(/ends/g)).toHaveLength(1)
    expect(clips().every((clip) => clip.kind === 'media' && clip.assetId === HARBOUR.id)).toBe(true)
    await press('Use it all the same')
    expect(clips().map(clipEnd)).toEqual([7 * SECOND, 7 * SECOND])
    studio.project.undo()
    await flushPromises()
    expect(clips().map(clipEnd)).toEqual([10 * SECOND, 10 * SECOND])
    expect(dialog()).toBe('')
  })

  it('says that sound would go, and both files can be kept', async () => {
    const { studio, clips, dialog, press, ended } = await given({ sounds: [] })
    expect(dialog()).toContain('the sound of harbour-wide.mp4 goes')
    await press('Keep both files')
    expect(dialog()).toBe('')
    expect(clips()).toHaveLength(2)
    expect(Object.keys(studio.project.document!.assets)).toContain(OTHER)
    expect(ended()).toBe(true)
  })

  it('is refused in words where it is another kind, and is nobody else’s to decide', async () => {
    const { studio, clips } = await given({ kind: 'sound', picture: null })
    expect(useNotices().list.at(-1)!.text).toContain('can’t take its place')
    expect(clips()).toHaveLength(2)
    expect(studio.project.sources[OTHER]!.givenFor).toBeNull()
    const other = await given({ length: SECOND }, 'another window')
    expect(other.dialog()).toBe('')
    expect(other.clips().map(clipEnd)).toEqual([10 * SECOND, 10 * SECOND])
  })
})
