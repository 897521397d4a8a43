import { describe, expect, it, vi } from 'vitest'
import { flushPromises } from '@vue/test-utils'
import { clipsOn, TICKS_PER_SAMPLE, type MediaClip } from '@dusk/timeline'
import ClipTakes from '~/features/voiceover/ClipTakes.vue'
import { nextName, placed, withoutEarlier } from '~/features/voiceover/placement'
import {
  joined,
  recordings,
  RecordingWriter,
  voiceFile,
  type RecordingFacts,
} from '~/features/voiceover/recordingStore'
import { openDesk } from './tools/desk'
import { SECOND } from './tools/server'

const VOICE = crypto.randomUUID()
const recording = (id: string, name: string, seconds: number) => ({
  type: 'addAsset' as const,
  asset: {
    ...{ id, name, kind: 'sound' as const, length: seconds * SECOND, picture: null },
    sounds: [{ channels: 1, length: seconds * SECOND, title: '' }],
  },
})

async function withVoice() {
  const d = await openDesk([recording(VOICE, 'Voice 1.wav', 12)])
  const track = d.track('Voice')
  const facts = (more: Partial<RecordingFacts> = {}): RecordingFacts => ({
    ...{ id: crypto.randomUUID(), projectId: d.project.id, reelId: d.project.reelId, trackId: track.id },
    ...{ name: 'Voice 1', playedFrom: 2 * SECOND, from: 5 * SECOND, to: null, delay: 480, begunAt: 0 },
    ...more,
  })
  return { ...d, voice: track, facts }
}

describe('parts of a recording', () => {
  it('lie where the reel was when they were heard', () => {
    const part = (at: number, value: number, length = 4) => ({ at, samples: new Float32Array(length).fill(value) })
    expect([...joined([part(4, 2), part(0, 1)])]).toEqual([1, 1, 1, 1, 2, 2, 2, 2])
    // The reel stood still: what was heard meanwhile gives way to what follows.
    expect([...joined([part(0, 1), part(2, 2)])]).toEqual([1, 1, 2, 2, 2, 2])
    // A part is missing: silence, and the rest keeps its place.
    expect([...joined([part(0, 1, 2), part(4, 3, 1)])]).toEqual([1, 1, 0, 0, 3])
    expect(joined([])).toHaveLength(0)
  })

  it('become a file of one channel', async () => {
    const file = voiceFile(Float32Array.from([0, 0.5, -1]), 'Voice 3')
    expect(file.name).toBe('Voice 3.wav')
    const view = new DataView(await file.arrayBuffer())
    expect([view.getUint16(22, true), view.getUint32(24, true), view.byteLength]).toEqual([1, 48_000, 44 + 9])
  })
})

describe('a recording while it is made', () => {
  const part = (at: number, value: number) => ({ at, samples: new Float32Array(2).fill(value) })
  const none = () => expect.unreachable('nothing was to fail')

  it('is written down as it comes; what waits goes together', async () => {
    const added = vi.spyOn(recordings, 'add')
    const writer = new RecordingWriter('one', none)
    for (const [i, value] of [1, 2, 3, 4].entries()) writer.add(part(2 * i, value))
    await writer.settled()
    expect([...(await recordings.samples('one'))]).toEqual([1, 1, 2, 2, 3, 3, 4, 4])
    expect(added.mock.calls.map(([, parts]) => parts.length)).toEqual([1, 3])
    writer.add(part(8, 5))
    await writer.settled()
    expect(await recordings.samples('one')).toHaveLength(10)
    added.mockRestore()
  })

  it('is handed in at once when the page goes away, however slow the disk was', async () => {
    const real = recordings.add.bind(recordings)
    const stuck = vi.spyOn(recordings, 'add').mockImplementationOnce(() => new Promise(() => {}))
    const writer = new RecordingWriter('two', none)
    for (const [i, value] of [1, 2, 3].entries()) writer.add(part(2 * i, value))
    stuck.mockImplementation(real)
    writer.hurry()
    await vi.waitFor(async () => expect([...(await recordings.samples('two'))]).toEqual([1, 1, 2, 2, 3, 3]))
    stuck.mockRestore()
  })

  it('goes on after parts that could not be written', async () => {
    const full = vi.spyOn(recordings, 'add').mockRejectedValueOnce(new DOMException('full', 'QuotaExceededError'))
    const failed = vi.fn()
    const writer = new RecordingWriter('three', failed)
    writer.add(part(0, 1))
    writer.add(part(2, 2))
    await writer.settled()
    expect(failed).toHaveBeenCalledOnce()
    expect([...(await recordings.samples('three'))]).toEqual([0, 0, 2, 2])
    full.mockRestore()
  })

  it('is given up in words where the browser has no database at all', async () => {
    const none = vi.spyOn(recordings, 'add').mockImplementation(() => {
      throw new DOMException('not here', 'SecurityError')
    })
    const failed = vi.fn()
    const writer = new RecordingWriter('four', failed)
    writer.add(part(0, 1))
    await expect(writer.settled()).resolves.toBeUndefined()
    expect(failed).toHaveBeenCalledOnce()
    none.mockRestore()
  })
})

describe('where a recording goes', () => {
  it('lies from where it was begun; what was run in and the delay lie before that', async () => {
    const { project, voice, facts } = await withVoice()
    const command = placed(project.document!, facts(), VOICE, 48_000 * 9)
    expect(command).toMatchObject({
      ...{ type: 'record', trackId: voice.id, start: 5 * SECOND },
      source: 3 * SECOND + 480 * TICKS_PER_SAMPLE,
      length: 6 * SECOND - 480 * TICKS_PER_SAMPLE,
    })
    expect(project.perform(command)).toBeTruthy()
    expect(clipsOn(project.document!, voice.id)).toHaveLength(1)
  })

  it('is another take of a recorded clip that begins there, and takes just the part that was marked', async () => {
    const { project, voice, facts } = await withVoice()
    project.perform(placed(project.document!, facts(), VOICE, 48_000 * 9))
    const [clip] = clipsOn(project.document!, voice.id)
    const again = crypto.randomUUID()
    project.perform(recording(again, 'Voice 2.wav', 12))
    expect(placed(project.document!, facts({ from: 5.2 * SECOND }), again, 48_000 * 9)).toMatchObject({
      ...{ type: 'addTake', clipId: clip!.id, assetId: again, at: 5.2 * SECOND },
    })
    expect(placed(project.document!, facts({ from: 7 * SECOND }), again, 48_000 * 9).type).toBe('record')
    expect(placed(project.document!, facts({ to: 6 * SECOND }), again, 48_000 * 9)).toMatchObject({
      ...{ type: 'record', start: 5 * SECOND, length: SECOND },
    })
  })

  it('is spoken without what lies there already in that part, and with all of the run-in', async () => {
    const { project, voice, facts } = await withVoice()
    expect(withoutEarlier(project.document!, facts())).toBeNull()
    project.perform(placed(project.document!, facts({ from: 3 * SECOND }), VOICE, 48_000 * 9))
    const stretches = (heard: ReturnType<typeof withoutEarlier>) =>
      clipsOn(heard!, voice.id).map(({ start, length }) => [start / SECOND, (start + length) / SECOND])
    const end = clipsOn(project.document!, voice.id).map(({ start, length }) => (start + length) / SECOND)[0]!
    expect(stretches(withoutEarlier(project.document!, facts()))).toEqual([[3, 5]])
    expect(stretches(withoutEarlier(project.document!, facts({ to: 6 * SECOND })))).toEqual([
      [3, 5],
      [6, end],
    ])
    // Nothing of it is in the document.
    expect(clipsOn(project.document!, voice.id)).toHaveLength(1)
  })

  it('is not a take of the sound of footage', async () => {
    const { project, facts, pair } = await withVoice()
    pair(145, 120, 0, 'Picture 1', 'Voice')
    expect(placed(project.document!, facts(), VOICE, 48_000 * 9).type).toBe('record')
  })

  it('has a name that is not taken', async () => {
    const { project } = await withVoice()
    expect(nextName(project.document!, 'Voice')).toBe('Voice 2')
    expect(nextName(project.document!, 'Music')).toBe('Music 1')
  })
})

describe('takes in the details', () => {
  it('are chosen and taken off', async () => {
    const { project, voice, facts, show } = await withVoice()
    project.perform(placed(project.document!, facts(), VOICE, 48_000 * 9))
    const again = crypto.randomUUID()
    project.perform(recording(again, 'Voice 2.wav', 12))
    project.perform(placed(project.document!, facts(), again, 48_000 * 9))
    const clip = () => clipsOn(project.document!, voice.id)[0] as MediaClip
    expect(clip().assetId).toBe(again)
    const details = show(ClipTakes, { clip: clip() })
    const radios = () => details.findAll('[role="radio"]')
    expect(radios().map((radio) => [radio.text(), radio.attributes('aria-checked')])).toEqual([
      ['1Voice 1', 'false'],
      ['2Voice 2', 'true'],
    ])
    await radios()[0]!.trigger('click')
    expect(clip().assetId).toBe(VOICE)
    await details.setProps({ clip: clip() })
    await details.find('[aria-label="Take Voice 2 off this clip"]').trigger('click')
    await flushPromises()
    expect(clip().takes).toBeUndefined()
  })
})
