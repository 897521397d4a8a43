import { readdir } from 'node:fs/promises'
import { join } from 'node:path'

/** Path of a chunk's file, whose ending depends on what it holds. */
export async function chunkIn(folder: string, key: string): Promise<string | null> {
  const name = (await readdir(folder).catch(() => [])).find((entry) => entry.startsWith(`${key}.`))
  return name ? join(folder, name) : null
}
