import { frameCount, tableLength, type SourceMetadata } from '@dusk/timeline'
import { makeProxy, makeStrip, probe, readTiming, seekSamples, seeksExactly } from '@dusk/media'
import { ARTEFACT_FILES } from '@dusk/store'
import { defineArtefact } from './define'

/** Part of the work that is done when the proxy is written; then come the proof of seeking and the strip. */
const WRITTEN = 0.94

/**
 * The proxy of a moving picture and its film strip. On the way it is proven that seeking in the original lands on the
 * frames that the table names, which the render relies on.
 */
export const proxy = defineArtefact({
  kind: 'proxy',
  async make({ original, metadata, storage, signal, progress }) {
    const video = await storage.scratch('.mp4')
    const sampled = metadata.seekable ? seekSamples(metadata) : []
    const made = await makeProxy(original, metadata, video, {
      sampled,
      signal,
      progress: (part) => progress(part * WRITTEN),
    })
    const found: Partial<SourceMetadata> = {}
    if (made.frames !== frameCount(metadata.table!)) {
      // Packets and pictures do not agree, as in damaged files: times are taken from the pictures themselves.
      const timing = await readTiming(original, await probe(original), true, signal)
      Object.assign(found, {
        table: timing.table,
        zero: timing.zero,
        seekable: false,
        length: tableLength(timing.table),
        notes: [...metadata.notes, 'Some of its pictures can’t be decoded and are left out.'],
      })
    } else if (sampled.length > 0 && !(await seeksExactly(original, metadata, made.hashes, signal)))
      found.seekable = false
    progress((1 + WRITTEN) / 2)
    const sheet = await storage.scratch('.jpg')
    const strip = await makeStrip(video, found.table ?? metadata.table!, made, sheet, signal)
    return {
      files: { [ARTEFACT_FILES.proxy.video]: video, [ARTEFACT_FILES.strip.jpg]: sheet },
      facts: { width: made.width, height: made.height, strip: { ...strip, type: 'jpg' } },
      metadata: found,
    }
  },
})
