import { writeFile } from 'node:fs/promises'
import { makeGlance } from '@dusk/media'
import { ARTEFACT_FILES } from '@dusk/store'
import { defineArtefact } from './define'

/** A first film strip, of keyframes, that stands in until the proxy brings its own. */
export const glance = defineArtefact({
  kind: 'glance',
  async make({ original, metadata, settings, storage, signal }) {
    const sheet = await storage.scratch('.jpg')
    const { bytes, strip } = await makeGlance(original, metadata, Number(settings.most), signal)
    await writeFile(sheet, bytes)
    return { files: { [ARTEFACT_FILES.strip.jpg]: sheet }, facts: { strip: { ...strip, type: 'jpg' } } }
  },
})
