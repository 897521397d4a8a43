import { parentPort, workerData } from 'node:worker_threads'
import { openStorage, type StoragePlace } from '@dusk/media'
import { ChunkDrawer, type ChunkWork } from './chunkDrawer'
import { runLane } from './chunkLane'
import type { FromThread, ToThread } from './chunkMessages'
import { failureOf } from './renderThread'

/** A thread that draws chunks: it asks for one after the other until there are none left. */
const port = parentPort!
const { work, place } = workerData as { work: ChunkWork; place: StoragePlace }
const say = (message: FromThread) => port.postMessage(message)
const stop = new AbortController()
let take: (task: Extract<ToThread, { kind: 'task' }>['task']) => void = () => {}
port.on('message', (message: ToThread) => {
  if (message.kind === 'task') take(message.task)
  else stop.abort(new Error('stopped'))
})

try {
  const drawer = await ChunkDrawer.create(work, openStorage(place))
  await runLane(
    drawer,
    () =>
      new Promise((resolve) => {
        take = resolve
        say({ kind: 'wants' })
      }),
    { signal: stop.signal, drew: ({ n }) => say({ kind: 'drew', n }), made: ({ n }) => say({ kind: 'made', n }) },
  )
  say({ kind: 'ended' })
} catch (error) {
  say(failureOf(error))
}
port.close()
