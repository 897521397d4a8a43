import { open, statfs } from 'node:fs/promises'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { FileStore } from '@tus/file-store'
import { UploadHasher } from '@dusk/media/uploadedFile'

/** Room that is left to the database and to work that is under way, in bytes. */
const SPARE = 32 * 1024 ** 2

/** Bytes that may still be written to the disk that a folder is on. */
export async function roomFor(folder: string): Promise<number> {
  const { bavail, bsize } = await statfs(folder)
  return Math.max(0, bavail * bsize - SPARE)
}

/** What an upload is answered for which the disk has no room. */
export const noRoom = { status_code: 507, body: 'The disk of the studio is full. Free some room and add it again.\n' }

/** Keeps uploads as files, and takes their hash while the bytes come: large files need not be read again for it. */
export class HashingStore extends FileStore {
  readonly hasher = new UploadHasher()

  /** Uploads whose bytes are just being brought to the disk. */
  private readonly settling = new Set<string>()

  override async write(readable: Readable, id: string, offset: number): Promise<number> {
    const take = this.hasher.part(id, offset)
    let brokeOff = false
    const taken = async function* () {
      try {
        for await (const bytes of readable as AsyncIterable<Buffer>) {
          take?.(bytes)
          yield bytes
        }
      } catch (error) {
        brokeOff = true
        throw error
      }
    }
    return this.keep(Readable.from(taken(), { objectMode: false }), id, offset, () => brokeOff)
  }

  /**
   * Where the disk is full, what has come of the upload goes: it is in the way of all else. Where the connection broke
   * off it stays, however little room there is: it is gone on with.
   */
  private async keep(readable: Readable, id: string, offset: number, brokeOff: () => boolean): Promise<number> {
    try {
      const end = await super.write(readable, id, offset)
      this.settle(id)
      return end
    } catch (error) {
      if (brokeOff() || (await roomFor(this.directory)) > 0) throw error
      await this.remove(id)
      throw noRoom
    }
  }

  /**
   * Lets what has come be brought to the disk while the rest comes: a large file that is complete would have to be
   * waited for otherwise before it can be looked at.
   */
  private settle(id: string): void {
    if (this.settling.has(id)) return
    this.settling.add(id)
    const sync = async () => {
      const file = await open(join(this.directory, id), 'r+')
      await file.datasync().finally(() => file.close())
    }
    sync()
      .catch(() => {})
      .finally(() => this.settling.delete(id))
  }

  override async remove(id: string): Promise<void> {
    this.hasher.drop(id)
    await super.remove(id)
  }
}
