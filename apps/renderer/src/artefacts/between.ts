import { stat } from 'node:fs/promises'
import { examine, makeBetween } from '@dusk/media'
import { ARTEFACT_FILES } from '@dusk/store'
import { MADE_SEGMENT } from '@dusk/timeline'
import { z } from 'zod'
import { defineArtefact } from './define'

const settingsSchema = z.object({
  factor: z.union([z.literal(2), z.literal(4), z.literal(8)]),
  segment: z.int().min(0),
})

/** Part of the work that is done when the frames are written; then their file is looked at. */
const WRITTEN = 0.98

/** The frames between those of a stretch of a source, for slow motion. */
export const between = defineArtefact({
  kind: 'between',
  async make({ original, metadata, settings, storage, signal, progress }) {
    const { factor, segment } = settingsSchema.parse(settings)
    const [video, proxy] = [await storage.scratch('.mp4'), await storage.scratch('.mp4')]
    const stretch = { first: segment * MADE_SEGMENT, count: MADE_SEGMENT, factor }
    const made = await makeBetween(
      original,
      metadata,
      stretch,
      { video, proxy },
      {
        signal,
        progress: (part) => progress(part * WRITTEN),
      },
    )
    // What a render needs to know of it to read its frames.
    const facts = await examine(video, (await stat(video)).size, signal)
    return {
      files: { [ARTEFACT_FILES.between.video]: video, [ARTEFACT_FILES.between.proxy]: proxy },
      facts: { ...made, metadata: facts },
    }
  },
})
