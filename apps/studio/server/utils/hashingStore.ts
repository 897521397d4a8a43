import { Readable } from 'node:stream'
import { FileStore } from '@tus/file-store'
import { UploadHasher } from '@dusk/media/uploadedFile'

/** Keeps uploads as files, and takes their hash while the bytes come: large files need not be read again for it. */
export class HashingStore extends FileStore {
  readonly hasher = new UploadHasher()

  override async write(readable: Readable, id: string, offset: number): Promise<number> {
    const take = this.hasher.part(id, offset)
    if (!take) return super.write(readable, id, offset)
    const taken = async function* () {
      for await (const bytes of readable as AsyncIterable<Buffer>) {
        take(bytes)
        yield bytes
      }
    }
    return super.write(Readable.from(taken(), { objectMode: false }), id, offset)
  }

  override async remove(id: string): Promise<void> {
    this.hasher.drop(id)
    await super.remove(id)
  }
}
