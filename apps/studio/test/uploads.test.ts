import { beforeEach, describe, expect, it, vi } from 'vitest'
import { createPinia, setActivePinia } from 'pinia'
import { flushPromises } from '@vue/test-utils'
import { useUploads } from '~/features/library/uploadsStore'

interface Options {
  metadata: Record<string, string>
  onProgress: (sent: number) => void
  onShouldRetry: (error: unknown) => boolean
  onError: (error: unknown) => void
  onSuccess: () => void
  onAfterResponse: (request: unknown, response: { getHeader: (name: string) => string }) => void
}

/** An upload that goes as far as a test lets it. */
class FakeUpload {
  static made: FakeUpload[] = []
  static before: { metadata: Record<string, string> }[] = []
  started = false
  aborted = false
  resumed: unknown = null
  constructor(
    readonly file: File,
    readonly options: Options,
  ) {
    FakeUpload.made.push(this)
  }
  findPreviousUploads = () => Promise.resolve(FakeUpload.before)
  resumeFromPreviousUpload = (previous: unknown) => void (this.resumed = previous)
  start = () => void (this.started = true)
  abort = () => ((this.aborted = true), Promise.resolve())
}
vi.mock('tus-js-client', () => ({
  Upload: function (file: File, options: Options) {
    return new FakeUpload(file, options)
  },
}))

const file = (name: string, bytes = 4) => new File([new Uint8Array(bytes)], name)
const failure = (status: number, words = '') => ({
  originalResponse: { getStatus: () => status, getBody: () => words },
})
const project = crypto.randomUUID()

beforeEach(() => {
  setActivePinia(createPinia())
  FakeUpload.made = []
  FakeUpload.before = []
})

describe('files that are sent', () => {
  it('say whose they are and how far they have come, and leave the list when they are there', async () => {
    const uploads = useUploads()
    const done = uploads.send(file('harbour.mp4', 100), project)
    await flushPromises()
    const [upload] = FakeUpload.made as [FakeUpload]
    expect(upload.options.metadata).toMatchObject({ projectId: project, fileName: 'harbour.mp4' })
    upload.options.onProgress(40)
    expect(uploads.list).toMatchObject([{ fileName: 'harbour.mp4', sent: 40, size: 100, state: 'sending' }])
    upload.options.onAfterResponse(null, { getHeader: (name) => `${name}!` })
    upload.options.onSuccess()
    expect((await done)('upload-id')).toBe('upload-id!')
    expect(uploads.list).toEqual([])
  })

  it('go three at a time; the next begins when one has come, failed or was stopped', async () => {
    const uploads = useUploads()
    const ids = Array.from({ length: 6 }, (_, i) => uploads.begin(file(`${i}.mp4`), project))
    await flushPromises()
    const started = () => FakeUpload.made.filter((upload) => upload.started).length
    expect(started()).toBe(3)
    FakeUpload.made[0]!.options.onSuccess()
    await flushPromises()
    expect(started()).toBe(4)
    FakeUpload.made[1]!.options.onError(failure(415, 'not a film'))
    await flushPromises()
    expect(started()).toBe(5)
    uploads.cancel(ids[2]!)
    await flushPromises()
    expect(started()).toBe(6)
    expect(FakeUpload.made[2]!.aborted).toBe(true)
    expect(uploads.cancelled).toEqual([ids[2]])
  })

  it('that are stopped before they began never begin', async () => {
    const uploads = useUploads()
    const ids = Array.from({ length: 5 }, (_, i) => uploads.begin(file(`${i}.mp4`), project))
    await flushPromises()
    uploads.cancel(ids[4]!)
    for (const upload of FakeUpload.made.slice(0, 4)) {
      await flushPromises()
      upload.options.onSuccess()
    }
    await flushPromises()
    expect(FakeUpload.made[4]!.started).toBe(false)
    expect(uploads.list).toEqual([])
  })

  it('wait while the connection is lost, and are given up when the server refuses them, in its words', async () => {
    const uploads = useUploads()
    const sent = uploads.send(file('notes.txt'), project)
    sent.catch(() => {})
    await flushPromises()
    const { options } = FakeUpload.made[0]!
    expect(options.onShouldRetry({})).toBe(true)
    expect(uploads.list[0]!.state).toBe('waiting')
    for (const status of [409, 423, 500, 503]) expect(options.onShouldRetry(failure(status)), `${status}`).toBe(true)
    for (const status of [400, 413, 415, 507]) expect(options.onShouldRetry(failure(status)), `${status}`).toBe(false)
    options.onError(failure(415, ' notes.txt is not video, sound or a picture. '))
    await expect(sent).rejects.toThrow('notes.txt is not video')
    expect(uploads.list).toMatchObject([{ state: 'failed', message: 'notes.txt is not video, sound or a picture.' }])
    uploads.drop(uploads.list[0]!.id)
    expect(uploads.list).toEqual([])
  })

  it('say what to do when the server could not be reached at all', async () => {
    const uploads = useUploads()
    uploads.send(file('harbour.mp4'), project).catch(() => {})
    await flushPromises()
    FakeUpload.made[0]!.options.onError({})
    expect(uploads.list[0]!.message).toContain('Try again; what was sent is kept')
  })

  it('that were begun before go on under their first name, in the same project only', async () => {
    const earlier = crypto.randomUUID()
    FakeUpload.before = [
      { metadata: { projectId: crypto.randomUUID(), assetId: crypto.randomUUID(), fileName: 'harbour.mp4' } },
      { metadata: { projectId: project, assetId: earlier, fileName: 'harbour.mp4' } },
    ]
    const uploads = useUploads()
    const id = uploads.begin(file('harbour.mp4'), project)
    await flushPromises()
    expect(FakeUpload.made[0]!.resumed).toBe(FakeUpload.before[1])
    expect(uploads.idOf(id)).toBe(earlier)
    const other = uploads.begin(file('harbour.mp4'), crypto.randomUUID())
    await flushPromises()
    expect(FakeUpload.made[1]!.resumed).toBeNull()
    expect(uploads.idOf(other)).toBe(other)
  })
})
