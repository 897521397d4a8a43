import { eq } from 'drizzle-orm'
import { assets, media, type MediaFacts } from '@dusk/store'
import { exists, sourcePaths } from '@dusk/media'
import { notFound } from './problem'
import { useServices } from './services'

/**
 * How far a source's preview files are, for the desk. The frame table is left out: it can be long and is fetched
 * apart.
 */
export interface SourceState {
  state: 'waiting' | 'working' | 'ready' | 'failed'
  progress: number
  message: string | null
  notes: string[]
  strip: MediaFacts['strip']
  proxy: MediaFacts['proxy']
  sounds: { channels: number; samples: number }[]
  /** The browser can decode the original itself, frame for frame, as it is. */
  plain: boolean
  codec: string | null
  container: string
  size: number
  /** When it was added, as milliseconds since 1970. */
  added: number
  /** The stored file is not where it should be. */
  missing: boolean
}

/** A file that is on its way into the library, or could not be taken in. */
export interface Arrival {
  id: string
  fileName: string
  state: 'examining' | 'failed'
  message: string | null
}

/** States of a project's sources by asset, and arrivals. */
export async function projectSources(
  projectId: string,
): Promise<{ sources: Record<string, SourceState>; arrivals: Arrival[] }> {
  const { db } = useServices()
  const rows = await db
    .select({ asset: assets, media })
    .from(assets)
    .leftJoin(media, eq(assets.hash, media.hash))
    .where(eq(assets.projectId, projectId))
  const sources: Record<string, SourceState> = {}
  const arrivals: Arrival[] = []
  for (const { asset, media: file } of rows) {
    if (asset.state !== 'taken') {
      if (!asset.dismissed)
        arrivals.push({ id: asset.id, fileName: asset.fileName, state: asset.state, message: asset.message })
    } else if (file) sources[asset.id] = sourceState(file, asset.createdAt, await isMissing(file.hash))
  }
  return { sources, arrivals }
}

async function isMissing(hash: string): Promise<boolean> {
  return !(await exists(sourcePaths(useServices().storage, hash).original))
}

function sourceState(file: typeof media.$inferSelect, added: Date, missing: boolean): SourceState {
  const { facts } = file
  return {
    state: file.state,
    progress: file.progress,
    message: file.message,
    notes: facts.notes,
    strip: facts.strip,
    proxy: facts.proxy,
    sounds: facts.sounds.map(({ channels, samples }) => ({ channels, samples })),
    plain:
      facts.filters.length === 0 &&
      /^(h264|vp8|vp9|av1)$/.test(facts.videoCodec ?? '') &&
      /mp4|mov|matroska|webm/.test(facts.container),
    codec: facts.videoCodec ?? facts.sounds[0]?.codec ?? null,
    container: facts.container,
    size: file.size,
    added: added.getTime(),
    missing,
  }
}

/** The stored file behind an asset. */
export async function assetFile(assetId: string) {
  const { db, storage } = useServices()
  const [row] = await db
    .select({ asset: assets, media })
    .from(assets)
    .innerJoin(media, eq(assets.hash, media.hash))
    .where(eq(assets.id, assetId))
  if (!row) throw notFound('source')
  return { ...row, paths: sourcePaths(storage, row.media.hash) }
}
