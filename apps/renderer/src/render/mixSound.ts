import type { StoragePlace } from '@dusk/media'
import { framesPerSecond } from '@dusk/timeline'
import { renderSound, type RenderedSound } from './renderSound'
import { onThread, type ThreadFailure } from './renderThread'
import type { RenderSubject } from './request'

/** What mixing the sound of a render needs: plain data, so that it can be handed to another thread. */
export interface SoundWork extends Omit<RenderSubject, 'storage' | 'signal'> {
  place: StoragePlace
  /** Reel position of the first sample, in ticks. */
  from: number
  /** Output frames that it lasts. */
  frames: number
  /** The file it goes to. */
  out: string
}

/** What the mixing thread says. */
export type FromSoundThread = { kind: 'mixed'; sound: RenderedSound } | ThreadFailure

/** Seconds of sound below which a thread is slower to start than it is of help. */
const WORTH = 20

/**
 * Mixes the sound of a range into a file as {@link renderSound} does: on a thread of its own where it is long, so that
 * pictures are drawn meanwhile.
 */
export async function mixSound(
  request: RenderSubject,
  from: number,
  frames: number,
  out: string,
): Promise<RenderedSound> {
  const { project, reelId, settings, book, storage, signal } = request
  if (frames / framesPerSecond(settings.rate) < WORTH) return renderSound(request, from, frames, out)
  let found: RenderedSound | null = null
  await onThread<'stop', FromSoundThread>({
    program: 'soundThread',
    given: { project, reelId, settings, book, place: storage.place, from, frames, out } satisfies SoundWork,
    signal,
    stop: ['stop'],
    hear: ({ sound }) => (found = sound),
  })
  if (!found) throw new Error('The thread that mixes sound ended before it was done.')
  return found
}
