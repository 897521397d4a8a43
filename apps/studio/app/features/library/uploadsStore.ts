import { defineStore } from 'pinia'
import { ref } from 'vue'
import * as tus from 'tus-js-client'
import { DISK_FULL } from '~/features/ui/api'
import { windowId } from '~/features/ui/windowId'

/** A file on its way to the server. */
export interface Sending {
  id: string
  projectId: string | null
  fileName: string
  sent: number
  size: number
  state: 'sending' | 'waiting' | 'failed'
  message: string | null
}

/** Bytes sent in one request; a lost connection loses at most this much. */
const CHUNK = 16 * 1024 ** 2
const RETRIES = [0, 500, 1500, 3000, 6000, 12_000, 20_000]
/** Files sent side by side. */
const PARALLEL = 3

/** Uploads, resumable by the tus protocol: a dropped connection goes on where it was. */
export const useUploads = defineStore('uploads', () => {
  const list = ref<Sending[]>([])
  const handles = new Map<string, tus.Upload>()
  const started = new Set<string>()
  const queue: (() => void)[] = []
  let running = 0

  function next(): void {
    while (running < PARALLEL && queue.length > 0) {
      running++
      queue.shift()!()
    }
  }

  /** Ids under which files go on that were begun before, by the id they were given this time. */
  const resumed = new Map<string, string>()
  /** Files that were taken off the list; whoever waits for them need not. */
  const cancelled = ref<string[]>([])

  /** Sends a file without waiting for it. Returns the id its source will have, see {@link idOf}. */
  function begin(file: File, projectId: string): string {
    const id = crypto.randomUUID()
    send(file, projectId, id).catch(() => {})
    return id
  }

  /** The id a file's source has: that of an earlier try where it goes on from one. */
  const idOf = (id: string) => resumed.get(id) ?? id

  /** Sends a file. Settles with the response's headers by `header`. */
  function send(
    file: File,
    projectId: string | null,
    id: string = crypto.randomUUID(),
    extra: Record<string, string> = {},
  ): Promise<(header: string) => string | undefined> {
    list.value.push({ id, projectId, fileName: file.name, sent: 0, size: file.size, state: 'sending', message: null })
    const entry = list.value.at(-1)!
    return new Promise((resolve, reject) => {
      let answer: (header: string) => string | undefined = () => undefined
      const over = () => {
        if (started.delete(id)) running--
        handles.delete(id)
        next()
      }
      const upload = new tus.Upload(file, {
        endpoint: '/api/uploads',
        chunkSize: CHUNK,
        retryDelays: RETRIES,
        storeFingerprintForResuming: true,
        removeFingerprintOnSuccess: true,
        metadata: {
          assetId: id,
          fileName: file.name,
          windowId: windowId(),
          ...(projectId ? { projectId } : {}),
          ...extra,
        },
        onProgress(sent) {
          entry.sent = sent
          entry.state = 'sending'
        },
        onShouldRetry(error) {
          const status = (error as tus.DetailedError).originalResponse?.getStatus() ?? 0
          if (status >= 400 && status < 500 && status !== 409 && status !== 423) return false
          if (status === DISK_FULL) return false
          entry.state = 'waiting'
          return true
        },
        onAfterResponse(_request, response) {
          answer = (header) => response.getHeader(header)
        },
        onError(error) {
          over()
          const words = (error as tus.DetailedError).originalResponse?.getBody()?.trim()
          entry.state = 'failed'
          entry.message = words || 'The server could not be reached. Try again; what was sent is kept.'
          reject(new Error(entry.message))
        },
        onSuccess() {
          over()
          drop(id)
          resolve(answer)
        },
      })
      handles.set(id, upload)
      queue.push(async () => {
        if (!handles.has(id)) {
          running--
          return next()
        }
        started.add(id)
        // A file dropped again after a closed tab goes on where it stopped.
        const before = await upload.findPreviousUploads().catch(() => [])
        const same = before.find(
          (previous) =>
            previous.metadata.projectId === (projectId ?? undefined) && previous.metadata.replaces === extra.replaces,
        )
        if (same) {
          upload.options.metadata = same.metadata as Record<string, string>
          if (same.metadata.assetId) resumed.set(id, same.metadata.assetId)
          upload.resumeFromPreviousUpload(same)
        }
        upload.start()
      })
      next()
    })
  }

  function cancel(id: string): void {
    void handles.get(id)?.abort(true)
    handles.delete(id)
    cancelled.value.push(id)
    if (started.delete(id)) {
      running--
      next()
    }
    drop(id)
  }

  function drop(id: string): void {
    list.value = list.value.filter((entry) => entry.id !== id)
  }

  return { list, cancelled, begin, idOf, send, cancel, drop }
})
