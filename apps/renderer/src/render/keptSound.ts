import { createHash } from 'node:crypto'
import { copyFile, readFile, stat, writeFile } from 'node:fs/promises'
import { deliveryOf } from '@dusk/interchange'
import type { ScratchSet, Storage } from '@dusk/media'
import type { SoundPlan } from '@dusk/timeline'
import { soundEngineName } from './engine'
import { mixSound } from './mixSound'
import { rangePlan, type RenderedSound } from './renderSound'
import type { RenderSubject } from './request'
import type { SourceBook } from './sources'

/** Bytes up to which a mixed sound is kept beside the chunks: an hour or two, where it is made smaller. */
const MOST = 128 * 1024 ** 2

/** Where a mixed sound is kept, and what was measured of it. */
function placeOf(storage: Storage, key: string): { sound: string; measured: string } {
  const path = (ending: string) => storage.path('chunks', key.slice(0, 2), `${key}.${ending}`)
  return { sound: path('sound'), measured: path('json') }
}

/** Name of a mixed sound: a hash of everything its samples depend on. */
export async function soundKey(
  plan: SoundPlan,
  first: number,
  { settings, book }: Pick<RenderSubject, 'settings' | 'book'>,
): Promise<string> {
  const { format, quality, loudness } = settings
  const codec = deliveryOf(format).sound ?? 'aac'
  const made = { engine: await soundEngineName(), codec, quality, loudness: loudness ?? null, first }
  return createHash('sha256')
    .update(
      JSON.stringify([made, plan], (name, value: unknown) => (name === 'assetId' ? contentOf(value, book) : value)),
    )
    .digest('hex')
}

/** A source by its content, not by its id. */
const contentOf = (assetId: unknown, book: SourceBook) => book.get(assetId as string)?.hash ?? assetId

/**
 * The sound of a range, as {@link mixSound} mixes it, or as it was mixed for a render before that sounds the same.
 */
export async function keptSound(
  request: RenderSubject,
  from: number,
  frames: number,
  out: string,
  scratch: ScratchSet,
): Promise<RenderedSound> {
  const { storage } = request
  const { plan, first } = rangePlan(request, from, frames)
  const place = placeOf(storage, await soundKey(plan, first, request))
  // One that vanishes just now is mixed anew.
  const kept = await takeKept(storage, place, out).catch(() => null)
  if (kept) return kept
  const found = await mixSound(request, from, frames, out)
  if ((await stat(out)).size > MOST) return found
  const [sound, measured] = [await scratch.scratch('.sound'), await scratch.scratch('.json')]
  await copyFile(out, sound)
  await writeFile(measured, JSON.stringify(found))
  await storage.publish(sound, place.sound)
  await storage.publish(measured, place.measured)
  return found
}

async function takeKept(
  storage: Storage,
  { sound, measured }: ReturnType<typeof placeOf>,
  out: string,
): Promise<RenderedSound | null> {
  if (!(await storage.fetch(sound)) || !(await storage.fetch(measured))) return null
  await copyFile(sound, out)
  await Promise.all([storage.touch(sound), storage.touch(measured)])
  return JSON.parse(await readFile(measured, 'utf8')) as RenderedSound
}
