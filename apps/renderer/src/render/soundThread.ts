import { parentPort, workerData } from 'node:worker_threads'
import { openStorage } from '@dusk/media'
import { renderSound } from './renderSound'
import { failureOf } from './renderThread'
import type { FromSoundThread, SoundWork } from './mixSound'

/** A thread that mixes the sound of a render. It is told nothing but to stop. */
const port = parentPort!
const { place, from, frames, out, ...subject } = workerData as SoundWork
const say = (message: FromSoundThread) => port.postMessage(message)
const stop = new AbortController()
port.on('message', () => stop.abort(new Error('stopped')))

try {
  const request = { ...subject, storage: openStorage(place), signal: stop.signal }
  say({ kind: 'mixed', sound: await renderSound(request, from, frames, out) })
} catch (error) {
  say(failureOf(error))
}
port.close()
