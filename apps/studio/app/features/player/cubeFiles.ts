import { CubeError, readCube, type Compositor, type Cube } from '@dusk/compositor'
import { filesOf, type FramePlan } from '@dusk/timeline'

/** Tables of colours as they come from the server, each fetched once. */
const coming = new Map<string, Promise<Cube | null>>()

async function fetched(hash: string): Promise<Cube | null> {
  const answer = await fetch(`/api/cubes/${hash}`)
  if (answer.status === 404) return null
  if (!answer.ok) throw new Error('A table of colours could not be read.')
  return readCube(await answer.text())
}

/** Sees to it that a compositor has the tables a plan names. One that is lost leaves its effect without any. */
export async function loadCubes(plan: FramePlan, compositor: Compositor): Promise<void> {
  for (const hash of filesOf(plan)) {
    if (compositor.cubes.has(hash)) continue
    let cube = coming.get(hash)
    if (!cube) {
      cube = fetched(hash)
      coming.set(hash, cube)
      // Asked for again when it could not be reached; what is no table stays none.
      cube.catch((error) => !(error instanceof CubeError) && coming.delete(hash))
    }
    const found = await cube.catch(() => null)
    if (found) compositor.cubes.set(hash, found)
  }
}
