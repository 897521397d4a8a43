import { readFile } from 'node:fs/promises'
import { CUBE_LIMITS, CubeError, readCube } from '@dusk/compositor'

/** A .cube file as its bytes: kept for effects to name by its hash, once it was read. */
export default defineApi((event) =>
  takeGivenFile(event, { what: 'A .cube file', ending: '.cube', limit: CUBE_LIMITS.bytes }, async (path) => {
    try {
      const { title, dimensions, size } = readCube(await readFile(path, 'utf8'))
      return { title, dimensions, size }
    } catch (error) {
      if (error instanceof CubeError) throw new Problem(422, 'Not a .cube file', error.message)
      throw error
    }
  }),
)
