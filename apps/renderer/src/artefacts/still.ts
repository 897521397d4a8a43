import { writeFile } from 'node:fs/promises'
import { makeStillTile, STILL_PREVIEW, stillToPng } from '@dusk/media'
import { ARTEFACT_FILES } from '@dusk/store'
import { defineArtefact } from './define'

/** The picture that previews draw a still from, and the tile that stands for it. */
export const still = defineArtefact({
  kind: 'still',
  async make({ original, metadata, storage, signal }) {
    const format = metadata.stillFormat!
    const [picture, tile] = [await storage.scratch('.png'), await storage.scratch('.tile')]
    await writeFile(picture, await stillToPng(original, format, STILL_PREVIEW, signal))
    const info = { format, width: metadata.width!, height: metadata.height!, alpha: metadata.alpha, notes: [] }
    const { bytes, type, strip } = await makeStillTile(original, info, signal)
    await writeFile(tile, bytes)
    return {
      files: { [ARTEFACT_FILES.still.picture]: picture, [ARTEFACT_FILES.strip[type]]: tile },
      facts: { strip: { ...strip, type } },
    }
  },
})
