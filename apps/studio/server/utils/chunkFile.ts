import { join } from 'node:path'
import { chunkEndings, type Storage } from '@dusk/media'

/** Path of a chunk's file, whose ending depends on what it holds. */
export async function chunkIn(storage: Storage, folder: string, key: string): Promise<string | null> {
  for (const ending of chunkEndings) {
    const path = join(folder, `${key}.${ending}`)
    if (await storage.has(path)) return path
  }
  return null
}
