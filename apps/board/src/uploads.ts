import { mkdir, rm } from 'node:fs/promises'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { setTimeout as wait } from 'node:timers/promises'
import { FileStore } from '@tus/file-store'
import { Server } from '@tus/server'
import { z } from 'zod'
import type { ConductBook } from './conduct'
import type { Shelf } from './shelf'

/** Bytes a second that are taken when the board is slow. */
const SLOW = 400_000
/** Where it breaks off, as a part of the whole. */
const BREAK_AT = 0.5

/** The first bytes of what comes; the rest is not read. */
async function* first(source: AsyncIterable<Buffer>, bytes: number): AsyncGenerator<Buffer> {
  let left = bytes
  for await (const part of source) {
    yield part.length > left ? part.subarray(0, left) : part
    left -= part.length
    if (left <= 0) return
  }
}

async function* slowly(source: AsyncIterable<Buffer>): AsyncGenerator<Buffer> {
  for await (const part of source) {
    await wait((part.length / SLOW) * 1000)
    yield part
  }
}

/** Keeps uploads as files, in the manner the board is set to. */
class MoodyStore extends FileStore {
  constructor(
    directory: string,
    private readonly conduct: ConductBook,
  ) {
    super({ directory })
  }

  override async write(source: Readable, id: string, offset: number): Promise<number> {
    const { mood } = this.conduct.now
    if (mood === 'refuses') throw { status_code: 403, body: 'The practice board refuses whatever comes just now.\n' }
    if (mood === 'slow') return super.write(Readable.from(slowly(source)), id, offset)
    if (mood !== 'breaks') return super.write(source, id, offset)
    const { size } = await this.getUpload(id)
    const most = Math.ceil((size ?? 0) * BREAK_AT)
    if (offset < most) {
      const there = await super.write(Readable.from(first(source, most - offset)), id, offset)
      if (there < most) return there
    }
    throw { status_code: 503, body: 'The practice board broke off half way.\n' }
  }
}

/** The part of the board that takes files: resumable uploads (tus.io protocol 1.0), one to a post and named by it. */
export async function openUploads(folder: string, shelf: Shelf, conduct: ConductBook) {
  const directory = join(folder, 'uploads')
  await mkdir(directory, { recursive: true, mode: 0o700 })
  const store = new MoodyStore(directory, conduct)
  const server = new Server({
    path: '/uploads',
    datastore: store,
    relativeLocation: true,
    namingFunction: (_request, metadata) => z.uuid().parse(metadata?.post),
    async onUploadCreate(_request, upload) {
      const post = await shelf.get(upload.metadata?.post ?? '')
      if (!post || post.shown) throw { status_code: 404, body: 'There is no post that waits for this file.\n' }
      if (upload.size !== post.file.bytes)
        throw { status_code: 422, body: `${post.file.bytes} bytes were told, and ${upload.size} come.\n` }
      return {}
    },
  })
  return {
    server,
    /** Where a file lies once all of it is there, or `null`. */
    async arrived(id: string): Promise<string | null> {
      const upload = await store.getUpload(id).catch(() => null)
      return upload && upload.offset === upload.size ? join(directory, id) : null
    },
    /** What is noted of an upload whose file was taken. */
    forget: (id: string) => rm(join(directory, `${id}.json`), { force: true }),
  }
}
