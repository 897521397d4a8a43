import { readFile } from 'node:fs/promises'
import { readCube, type Compositor } from '@dusk/compositor'
import type { Storage } from '@dusk/media'
import { filesNamed, type Project } from '@dusk/timeline'
import { RenderFailed } from './request'

/** Reads the tables of colours that effects name. @throws {RenderFailed} when one is not there */
export async function loadCubes(project: Project, compositor: Compositor, storage: Storage): Promise<void> {
  // An effect that is switched off needs no file.
  const acts = ([, { on, strength }]: [string, { on: boolean; strength: number }]) => on && strength > 0
  const acting = Object.fromEntries(Object.entries(project.effects).filter(acts))
  for (const hash of filesNamed(acting)) {
    const path = storage.given(hash)
    const text = (await storage.fetch(path)) ? await readFile(path, 'utf8').catch(() => null) : null
    if (text === null)
      throw new RenderFailed(
        'The .cube file of an effect is not there. Load it again in the effect “LUT file”, or remove that effect.',
      )
    compositor.cubes.set(hash, readCube(text))
  }
}
