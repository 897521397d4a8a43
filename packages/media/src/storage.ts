import { createHash, randomUUID } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { copyFile, mkdir, open, readdir, rename, rm, stat, utimes } from 'node:fs/promises'
import { dirname, isAbsolute, join, relative, resolve, sep } from 'node:path'
import { folderSize, type FolderSize } from './folderSize'
import { ownScratchName } from './scratch'

/** Where a storage is, as plain data: another thread or process opens the same one with it. */
export interface StoragePlace {
  /** A folder of this machine. */
  folder: string
  /** The bucket that the folder stands before, such as `s3://films/dusk`; `null` where the folder is all there is. */
  bucket: string | null
}

/** A file or folder that is kept, with all in it. */
export interface StoredEntry {
  path: string
  name: string
  bytes: number
  /** When it was last written or, for chunks, used, in milliseconds since 1970. */
  at: number
}

/**
 * Where media lie: every file once, under the SHA-256 of its bytes, with what was made from it beside it. Names that
 * people give never reach the disk. Files are written aside and renamed, so that a half one is never taken for whole.
 * Paths are of this machine; where files are kept elsewhere too, {@link Storage.fetch} brings one here before it is
 * read.
 */
export interface Storage {
  readonly place: StoragePlace
  /** Path of an original. */
  original(hash: string): string
  /** Folder of an artefact, and path of a file in it such as `proxy.mp4`. */
  artefactFolder(key: string): string
  artefact(key: string, name: string): string
  /** Path of a file that effects name, such as a table of colours. */
  given(hash: string): string
  /** Path of anything else, such as `renders/<id>.mp4`. */
  path(...parts: string[]): string
  /** What a path is called on every machine, such as `uploads/<id>`. */
  nameOf(path: string): string
  /** Path on this machine of what is called so. */
  at(name: string): string
  /** A fresh path to write to before {@link publish}. */
  scratch(suffix?: string): Promise<string>
  /** Moves a finished file to its place. */
  publish(from: string, to: string): Promise<void>
  /** Lets other machines have a file that was written in its place. */
  share(path: string): Promise<void>
  /** Whether a file is kept, here or elsewhere. */
  has(path: string): Promise<boolean>
  /** Brings a file to its place on this machine. @returns whether it is there to be read */
  fetch(path: string): Promise<boolean>
  /** Says that a file was used now. */
  touch(path: string): Promise<void>
  /** Removes a file, or a folder with all in it; one that is not there is no fault. */
  remove(path: string): Promise<void>
  /** What lies in a folder, `depth` levels down; nothing when it is not there. */
  list(folder: string, depth: number): Promise<StoredEntry[]>
  /** What a folder takes, with all in it. */
  size(folder: string): Promise<FolderSize>
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

  get place(): StoragePlace {
    return { folder: this.root, bucket: null }
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

  nameOf(path: string): string {
    return relative(this.root, path).split(sep).join('/')
  }

  at(name: string): string {
    // Versions before this one wrote whole paths down.
    return isAbsolute(name) ? name : join(this.root, ...name.split('/'))
  }

  async scratch(suffix = ''): Promise<string> {
    const folder = join(this.root, 'scratch', ownScratchName())
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

  async share(_path: string): Promise<void> {
    // Whoever has the folder has the file.
  }

  has(path: string): Promise<boolean> {
    return exists(path)
  }

  fetch(path: string): Promise<boolean> {
    return exists(path)
  }

  async touch(path: string): Promise<void> {
    const now = new Date()
    await utimes(path, now, now).catch(() => {})
  }

  async remove(path: string): Promise<void> {
    await removeFile(path)
  }

  list(folder: string, depth: number): Promise<StoredEntry[]> {
    return listFolder(folder, depth)
  }

  size(folder: string): Promise<FolderSize> {
    return folderSize(folder)
  }

  scratchSet(): ScratchSet {
    const lent: string[] = []
    // Everything else is as it is here, in whatever kind of storage this is.
    const set: ScratchSet = Object.create(this)
    set.scratch = async (suffix) => {
      const path = await this.scratch(suffix)
      lent.push(path)
      return path
    }
    set.clear = async () => {
      for (const path of lent.splice(0)) await removeFile(path)
    }
    return set
  }
}

/** What lies in a folder of this machine, `depth` levels down; nothing when it is not there. */
async function listFolder(folder: string, depth: number): Promise<StoredEntry[]> {
  const names = await readdir(folder).catch(() => [])
  if (depth > 1) return (await Promise.all(names.map((name) => listFolder(join(folder, name), depth - 1)))).flat()
  const found = await Promise.all(
    names.map(async (name): Promise<StoredEntry | null> => {
      const path = join(folder, name)
      const info = await stat(path).catch(() => null)
      return info && { path, name, bytes: info.size, at: info.mtimeMs }
    }),
  )
  return found.filter((entry) => entry !== null)
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
