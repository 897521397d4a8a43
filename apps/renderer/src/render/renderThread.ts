import { createRequire } from 'node:module'
import { Worker } from 'node:worker_threads'
import { isDiskFull } from '@dusk/media'
import { RenderFailed } from './request'

const require = createRequire(import.meta.url)

/** Milliseconds that a thread has to end by itself once it is told to. */
const PATIENCE = 5000

/** What a thread says of the error that ends it. */
export interface ThreadFailure {
  kind: 'failed'
  name: string
  message: string
  diskFull: boolean
}

/** An error as a thread tells of it. */
export function failureOf(error: unknown): ThreadFailure {
  const { name, message } = error as Error
  return { kind: 'failed', name, message, diskFull: isDiskFull(error) }
}

/** An error of a thread as it would have been thrown here. */
function errorOf({ name, message, diskFull }: ThreadFailure): Error {
  if (name === 'RenderFailed') return new RenderFailed(message)
  return Object.assign(new Error(message), { name, ...(diskFull ? { code: 'ENOSPC' } : {}) })
}

/** A part of a render that has a thread of its own. */
export interface ThreadPart<Told, Said> {
  /** Its program, as it was built. */
  program: 'chunkThread' | 'soundThread'
  /** What it begins with: plain data. */
  given: unknown
  signal?: AbortSignal
  /** What it is told when it is to end. */
  stop: readonly Told[]
  /**
   * Hears what it says.
   * @param fail ends it, for a reason
   * @returns what has to settle before it counts as ended
   */
  hear: (said: Exclude<Said, ThreadFailure>, tell: (told: Told) => void, fail: (error: Error) => void) => unknown
}

/** Runs a part of a render on a thread of its own. @throws what it failed with, when it has ended */
export function onThread<Told, Said>({ program, given, signal, stop, hear }: ThreadPart<Told, Said>): Promise<void> {
  const thread = new Worker(require.resolve(`@dusk/renderer/build/${program}.mjs`), {
    workerData: given,
    execArgv: [],
  })
  const tell = (told: Told) => thread.postMessage(told)
  return new Promise<void>((resolve, reject) => {
    let outcome: Error | null = null
    let timer: ReturnType<typeof setTimeout> | undefined
    const end = () => {
      stop.forEach(tell)
      timer ??= setTimeout(() => void thread.terminate(), PATIENCE)
    }
    if (signal?.aborted) end()
    signal?.addEventListener('abort', end, { once: true })
    // What was made is written down before the thread counts as ended.
    let heard: Promise<unknown> = Promise.resolve()
    const fail = (error: Error) => {
      outcome ??= error
      end()
    }
    thread.on('message', (said: Said | ThreadFailure) => {
      if (isFailure(said)) outcome ??= errorOf(said)
      else heard = Promise.all([heard, hear(said as Exclude<Said, ThreadFailure>, tell, fail)]).catch(fail)
    })
    thread.on('error', (error) => (outcome = error))
    thread.on('exit', () => {
      clearTimeout(timer)
      signal?.removeEventListener('abort', end)
      void heard.then(() => (outcome ? reject(outcome) : resolve()))
    })
  })
}

const isFailure = (said: unknown): said is ThreadFailure => (said as Partial<ThreadFailure>).kind === 'failed'
