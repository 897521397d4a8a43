import { linkSync, mkdirSync, mkdtempSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { examine, FolderStorage, hashFile } from '@dusk/media'
import type { RenderSettings } from '@dusk/store'
import { applyCommand, assetFacts, commandSchema, createProject, reelsOf, tracksOf, type Rate } from '@dusk/timeline'
import { renderReel } from '@dusk/renderer/render/renderReel'

/** A folder of a measurement's own. */
export const benchFolder = () => mkdtempSync(join(tmpdir(), 'dusk-bench-'))

/** A stretch of a source on a reel, in ticks. */
export interface Shot {
  start: number
  length: number
  source: number
}

/**
 * A reel of 1920 × 1080 with shots of one source, rendered by itself.
 * @param change what it is rendered like, where otherwise than at good quality without sound
 * @param drawn which shots are a little dimmed, so that each of their frames is drawn
 * @returns renders it into a storage of its own, so that nothing is there already; milliseconds that it took
 */
export async function shotsRender(
  dir: string,
  source: string,
  rate: Rate,
  shots: readonly Shot[],
  change: Partial<RenderSettings> = {},
  drawn: (shot: number) => boolean = () => false,
): Promise<(run: number) => Promise<number>> {
  const hash = await hashFile(source)
  const metadata = await examine(source, statSync(source).size)
  const id = crypto.randomUUID()
  let project = createProject('Bench', { width: 1920, height: 1080, rate })
  const reel = reelsOf(project)[0]!
  const trackId = tracksOf(project, reel.id)[0]!.id
  const perform = (input: Parameters<typeof commandSchema.parse>[0]) =>
    (project = applyCommand(project, commandSchema.parse(input), crypto.randomUUID()).project)
  perform({ type: 'addAsset', asset: assetFacts(id, 'source', metadata) })
  const base = { trackId, assetId: id, stream: null, link: null }
  const pieces = shots.map((shot) => ({ ...base, ...shot, clipId: crypto.randomUUID() }))
  perform({ type: 'place', mode: 'free', pieces })
  const dim = pieces.filter((_, n) => drawn(n)).map(({ clipId }) => clipId)
  if (dim.length > 0) perform({ type: 'setParams', clipIds: dim, set: { opacity: 90 } })

  return async (run) => {
    const storage = new FolderStorage(join(dir, `store-${run}`))
    mkdirSync(dirname(storage.original(hash)), { recursive: true })
    linkSync(source, storage.original(hash))
    const began = performance.now()
    await renderReel({
      project,
      reelId: reel.id,
      settings: { width: 1920, height: 1080, rate, quality: 'good', range: null, sound: false, ...change },
      book: new Map([[id, { hash, metadata }]]),
      storage,
      out: join(dir, `ours-${run}.mp4`),
    })
    return performance.now() - began
  }
}
