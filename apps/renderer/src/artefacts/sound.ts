import { TICKS_PER_SAMPLE } from '@dusk/timeline'
import { makeSound } from '@dusk/media'
import { ARTEFACT_FILES } from '@dusk/store'
import { z } from 'zod'
import { defineArtefact } from './define'

const settingsSchema = z.object({ stream: z.int().min(0) })

/** The canonical sound of one stream, with its waveform. */
export const sound = defineArtefact({
  kind: 'sound',
  async make({ original, metadata, settings, storage, signal, progress }) {
    const { stream } = settingsSchema.parse(settings)
    const [samples, waveform] = [await storage.scratch('.pcm'), await storage.scratch('.wave')]
    const count = await makeSound(original, metadata, stream, samples, waveform, { signal, progress })
    const sounds = metadata.sounds.map((entry, i) => (i === stream ? { ...entry, samples: count } : entry))
    const longest = Math.max(...sounds.map((entry) => entry.samples)) * TICKS_PER_SAMPLE
    return {
      files: { [ARTEFACT_FILES.sound.samples]: samples, [ARTEFACT_FILES.sound.waveform]: waveform },
      facts: { samples: count },
      metadata: { sounds, ...(metadata.kind === 'sound' ? { length: longest } : {}) },
    }
  },
})
