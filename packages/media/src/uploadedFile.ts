import { createHash, type Hash } from 'node:crypto'
import { readFile, stat, writeFile } from 'node:fs/promises'
import { z } from 'zod'
import { exists, hashFile, type Storage } from './storage'

/** Beside an upload lie what the tus server knows of it, and the hash that was taken of its bytes as they came. */
const HASH = '.sha256'
const BESIDE = ['.json', HASH]

/** Names that an upload's files have in their folder. */
export function uploadNames(name: string): string[] {
  return [name, ...BESIDE.map((ending) => name + ending)]
}

/** Removes an upload with what lies beside it. */
export async function removeUpload(storage: Storage, path: string): Promise<void> {
  for (const name of uploadNames(path)) await storage.remove(name)
}

/** Lets other machines have an upload, with the hash that was taken of it. */
export async function shareUpload(storage: Storage, path: string): Promise<void> {
  for (const name of [path, `${path}${HASH}`]) if (await exists(name)) await storage.share(name)
}

const hashSchema = z.object({ hash: z.string().regex(/^[0-9a-f]{64}$/), size: z.int() })

/** SHA-256 of an upload in hex: as it was taken while the bytes came, or read anew. */
export async function hashUpload(storage: Storage, path: string): Promise<string> {
  try {
    await storage.fetch(path + HASH)
    const { hash, size } = hashSchema.parse(JSON.parse(await readFile(path + HASH, 'utf8')))
    if ((await stat(path)).size === size) return hash
  } catch {
    // It was not taken, as after a restart half way.
  }
  return hashFile(path)
}

/** Takes the hash of an upload that comes in parts, as long as each begins where the one before ended. */
export class UploadHasher {
  private readonly running = new Map<string, { hash: Hash; bytes: number }>()

  /** Begins a part at a byte. @returns what takes its bytes, or `null` where the bytes before were not seen */
  part(id: string, offset: number): ((bytes: Uint8Array) => void) | null {
    let state = this.running.get(id)
    if (offset === 0) this.running.set(id, (state = { hash: createHash('sha256'), bytes: 0 }))
    if (state?.bytes !== offset) {
      this.running.delete(id)
      return null
    }
    const own = state
    return (bytes) => {
      own.hash.update(bytes)
      own.bytes += bytes.length
    }
  }

  /** Writes the hash beside a finished upload, where all of its bytes were seen. */
  async finish(id: string, path: string, size: number): Promise<void> {
    const state = this.running.get(id)
    this.running.delete(id)
    if (state?.bytes === size) await writeFile(path + HASH, JSON.stringify({ hash: state.hash.digest('hex'), size }))
  }

  /** Forgets an upload that is given up. */
  drop(id: string): void {
    this.running.delete(id)
  }
}
