import { createHash, randomUUID } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { copyFile, mkdir, open, rename, rm, stat, utimes } from 'node:fs/promises'
import { dirname, join, resolve } from 'node:path'
import { ownScratchName } from './scratch'

/**
 * Where media lie: every file once, under the SHA-256 of its bytes, with what was made from it beside it. Names that
 * people give never reach the disk. Files are written aside and renamed, so that a half one is never taken for whole.
 */
export interface Storage {
  /** Path of an original. */
  original(hash: string): string
  /** Folder of an artefact, and path of a file in it such as `proxy.mp4`. */
  artefactFolder(key: string): string
  artefact(key: string, name: string): string
  /** Path of a file that effects name, such as a table of colours. */
  given(hash: string): string
  /** Path of anything else, such as `renders/<id>.mp4`. */
  path(...parts: string[]): string
  /** A fresh path to write to before {@link publish}. */
  scratch(suffix?: string): Promise<string>
  /** Moves a finished file to its place. */
  publish(from: string, to: string): Promise<void>
  /** The same storage, remembering what it gives out as scratch, so that all that is left of it can be removed. */
  scratchSet(): ScratchSet
}

export interface ScratchSet extends Storage {
  /** Removes what was given out as scratch and not published. */
  clear(): Promise<void>
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

  artefactFolder(key: string): string {
    return join(this.root, 'artefacts', key.slice(0, 2), key)
  }

  artefact(key: string, name: string): string {
    return join(this.artefactFolder(key), name)
  }

  given(hash: string): string {
    return join(this.root, 'given', hash)
  }

  path(...parts: string[]): string {
    return join(this.root, ...parts)
  }

  async scratch(suffix = ''): Promise<string> {
    const folder = join(this.root, 'scratch', ownScratchName())
    await mkdir(folder, { recursive: true })
    return join(folder, randomUUID() + suffix)
  }

  scratchSet(): ScratchSet {
    return new FolderScratch(this.root)
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

/** See {@link Storage.scratchSet}. */
class FolderScratch extends FolderStorage implements ScratchSet {
  private readonly lent: string[] = []

  override async scratch(suffix = ''): Promise<string> {
    const path = await super.scratch(suffix)
    this.lent.push(path)
    return path
  }

  async clear(): Promise<void> {
    for (const path of this.lent.splice(0)) await removeFile(path)
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

/** Says that a file was used now. */
export async function touchFile(path: string): Promise<void> {
  const now = new Date()
  await utimes(path, now, now).catch(() => {})
}
