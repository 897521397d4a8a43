import { createHash, randomUUID } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { copyFile, mkdir, open, rename, rm, stat } from 'node:fs/promises'
import { dirname, join, resolve } from 'node:path'

/**
 * Where media lie: every file once, under the SHA-256 of its bytes, with what was made from it beside it. Names that
 * people give never reach the disk. Files are written aside and renamed, so that a half one is never taken for whole.
 */
export interface Storage {
  /** Path of an original. */
  original(hash: string): string
  /** Path of a file made from an original, such as `proxy.mp4`. */
  derived(hash: string, name: string): string
  /** Path of anything else, such as `renders/<id>.mp4`. */
  path(...parts: string[]): string
  /** A fresh path to write to before {@link publish}. */
  scratch(suffix?: string): Promise<string>
  /** Moves a finished file to its place. */
  publish(from: string, to: string): Promise<void>
}

/** {@link Storage} in a folder, which several machines may share. */
export class FolderStorage implements Storage {
  readonly root: string

  constructor(root: string) {
    this.root = resolve(root)
  }

  original(hash: string): string {
    return join(this.root, 'originals', hash.slice(0, 2), hash)
  }

  derived(hash: string, name: string): string {
    return join(this.root, 'derived', hash.slice(0, 2), hash, name)
  }

  path(...parts: string[]): string {
    return join(this.root, ...parts)
  }

  async scratch(suffix = ''): Promise<string> {
    const folder = join(this.root, 'scratch')
    await mkdir(folder, { recursive: true })
    return join(folder, randomUUID() + suffix)
  }

  async publish(from: string, to: string): Promise<void> {
    const handle = await open(from, 'r+')
    await handle.sync()
    await handle.close()
    await mkdir(dirname(to), { recursive: true })
    try {
      await rename(from, to)
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EXDEV') throw error
      // Another disk: copied beside its place first, so that it still appears there whole.
      const beside = `${to}.part`
      await copyFile(from, beside)
      await rename(beside, to)
      await rm(from, { force: true })
    }
  }
}

/** SHA-256 of a file, in hex, read piece by piece. */
export async function hashFile(path: string): Promise<string> {
  const hash = createHash('sha256')
  for await (const part of createReadStream(path, { highWaterMark: 1 << 20 })) hash.update(part as Buffer)
  return hash.digest('hex')
}

/** Whether a file is there. */
export async function exists(path: string): Promise<boolean> {
  return stat(path).then(
    () => true,
    () => false,
  )
}

export async function removeFile(path: string): Promise<void> {
  await rm(path, { force: true, recursive: true })
}
