import { readdir, stat } from 'node:fs/promises'
import { join } from 'node:path'

/** What a folder takes on the disk. */
export interface FolderSize {
  bytes: number
  files: number
}

/** Adds up a folder and all that is in it, or a file; what is not there takes nothing. */
export async function folderSize(path: string): Promise<FolderSize> {
  const sum = { bytes: 0, files: 0 }
  const entries = await readdir(path, { withFileTypes: true }).catch(() => null)
  if (!entries) {
    const info = await stat(path).catch(() => null)
    return { bytes: info?.size ?? 0, files: info ? 1 : 0 }
  }
  for (const entry of entries) {
    const at = join(path, entry.name)
    if (entry.isDirectory()) {
      const inner = await folderSize(at)
      sum.bytes += inner.bytes
      sum.files += inner.files
      continue
    }
    // One that went while it was looked at takes nothing any more.
    const info = await stat(at).catch(() => null)
    if (!info) continue
    sum.bytes += info.size
    sum.files++
  }
  return sum
}
