import { createReadStream, createWriteStream } from 'node:fs'
import { stat } from 'node:fs/promises'
import { join } from 'node:path'
import type { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import type { S3Client, S3ServiceException } from '@aws-sdk/client-s3'
import { BucketAway, isUnreached } from './faults'
import type { FolderSize } from './folderSize'
import { exists, FolderStorage, removeFile, type StoragePlace, type StoredEntry } from './storage'

/** Folders whose files every machine is to have; the rest (work files) stays on its own. */
const SHARED = new Set(['originals', 'artefacts', 'given', 'chunks', 'renders', 'posters', 'uploads'])
/** Folders that keep what was brought here, with how deep their files lie. */
const CACHED = [
  ...([['originals', 2] as const, ['chunks', 2] as const, ['artefacts', 3] as const] as const),
  ...([['renders', 1] as const, ['given', 1] as const, ['posters', 1] as const] as const),
]
/** Bytes of a part of an upload, and parts on their way at once. */
const PART = { partSize: 16 * 1024 ** 2, queueSize: 3 }
/** Largest object that one request copies within the bucket, in bytes (Amazon S3 API, CopyObject). */
const COPIED = 5 * 1024 ** 3
/** Objects that one request removes (Amazon S3 API, DeleteObjects). */
const REMOVED = 1000
/** A file that was used this lately stays on this machine: somebody may be about to read it. Milliseconds. */
const IN_USE_MS = 3_600_000

/** The client with its library, which is loaded only where there is a bucket. */
interface Client {
  s3: typeof import('@aws-sdk/client-s3')
  storage: typeof import('@aws-sdk/lib-storage')
  client: S3Client
}

async function reach(): Promise<Client> {
  // It warns of later versions than the one that is fixed here.
  process.env.AWS_SDK_JS_NODE_VERSION_SUPPORT_WARNING_DISABLED ??= 'true'
  const [s3, storage] = await Promise.all([import('@aws-sdk/client-s3'), import('@aws-sdk/lib-storage')])
  // Stores other than Amazon's seldom give each bucket a host name of its own.
  const forcePathStyle = Boolean(process.env.AWS_ENDPOINT_URL_S3 ?? process.env.AWS_ENDPOINT_URL)
  return { s3, storage, client: new s3.S3Client({ forcePathStyle, region: process.env.AWS_REGION ?? 'us-east-1' }) }
}

interface Found {
  key: string
  bytes: number
  at: number
}

/**
 * {@link Storage} in a bucket of S3-compatible object storage. Each machine has a folder of its own before it: what is
 * published goes to the bucket first, what is read is brought here once and kept, up to a limit, for the next time.
 * Who we are there and where it is, come from the environment as every client of S3 takes them: `AWS_ACCESS_KEY_ID`,
 * `AWS_SECRET_ACCESS_KEY`, `AWS_REGION`, `AWS_ENDPOINT_URL_S3`.
 */
export class BucketStorage extends FolderStorage {
  private reached: Promise<Client> | null = null
  private readonly bucket: string
  private readonly prefix: string
  private readonly fetching = new Map<string, Promise<boolean>>()

  /**
   * @param folder of this machine
   * @param address such as `s3://films/dusk`: the bucket, and what the names of all objects begin with
   * @throws {Error} in words when it is no such address
   */
  constructor(
    folder: string,
    private readonly address: string,
  ) {
    super(folder)
    const [, bucket, prefix] = /^s3:\/\/([a-z0-9][a-z0-9.-]{1,61}[a-z0-9])(?:\/(.*?))?\/?$/.exec(address) ?? []
    if (!bucket) throw new Error(`“${address}” names no bucket. It has to look like s3://bucket or s3://bucket/folder.`)
    this.bucket = bucket
    this.prefix = prefix ? `${prefix}/` : ''
  }

  override get place(): StoragePlace {
    return { folder: this.root, bucket: this.address }
  }

  override async publish(from: string, to: string): Promise<void> {
    // To the bucket first: what lies in its place here is there, too.
    if (this.isShared(to)) await this.send(from, to)
    await super.publish(from, to)
  }

  override async share(path: string): Promise<void> {
    await this.send(path, path)
  }

  override async has(path: string): Promise<boolean> {
    if ((await exists(path)) || !this.isShared(path)) return exists(path)
    return (await this.head(path)) !== null
  }

  override async fetch(path: string): Promise<boolean> {
    if (await exists(path)) {
      if (this.isShared(path)) await super.touch(path)
      return true
    }
    if (!this.isShared(path)) return false
    let running = this.fetching.get(path)
    if (!running) {
      running = this.bring(path).finally(() => this.fetching.delete(path))
      this.fetching.set(path, running)
    }
    return running
  }

  override async touch(path: string): Promise<void> {
    await super.touch(path)
    if (!this.isShared(path)) return
    const Key = this.keyOf(path)
    const CopySource = `${this.bucket}/${encodeURI(Key)}`
    // An object onto itself: all that changes is when it was written.
    const copy = { Bucket: this.bucket, Key, CopySource, MetadataDirective: 'REPLACE' } as const
    await this.reaching(({ s3, client }) => client.send(new s3.CopyObjectCommand(copy))).catch(() => {})
  }

  override async remove(path: string): Promise<void> {
    await removeFile(path)
    if (!this.isShared(path)) return
    const key = this.keyOf(path)
    const inside = (await this.objects(`${key}/`)).map((object) => object.key)
    const keys = [key, ...inside]
    await this.reaching(async ({ s3, client }) => {
      for (let i = 0; i < keys.length; i += REMOVED) {
        const Objects = keys.slice(i, i + REMOVED).map((Key) => ({ Key }))
        await client.send(new s3.DeleteObjectsCommand({ Bucket: this.bucket, Delete: { Objects, Quiet: true } }))
      }
    })
  }

  override async list(folder: string, depth: number): Promise<StoredEntry[]> {
    if (!this.isShared(join(folder, 'x'))) return super.list(folder, depth)
    const key = `${this.keyOf(folder)}/`
    const found = new Map<string, StoredEntry>()
    for (const { key: own, bytes, at } of await this.objects(key)) {
      const parts = own.slice(key.length).split('/').slice(0, depth)
      const path = join(folder, ...parts)
      const entry = found.get(path) ?? { path, name: parts.at(-1)!, bytes: 0, at: 0 }
      found.set(path, { ...entry, bytes: entry.bytes + bytes, at: Math.max(entry.at, at) })
    }
    // Uploads on their way are only here so far.
    for (const entry of await super.list(folder, depth)) if (!found.has(entry.path)) found.set(entry.path, entry)
    return [...found.values()]
  }

  override async size(folder: string): Promise<FolderSize> {
    if (!this.isShared(join(folder, 'x'))) return super.size(folder)
    const objects = await this.objects(`${this.keyOf(folder)}/`)
    return { bytes: objects.reduce((sum, { bytes }) => sum + bytes, 0), files: objects.length }
  }

  /**
   * Removes from this machine, not from the bucket, what was longest not used, until all takes no more than `limit`.
   * @returns bytes freed
   */
  async trim(limit: number, now = Date.now()): Promise<number> {
    const files: StoredEntry[] = []
    for (const [folder, depth] of CACHED) files.push(...(await super.list(this.path(folder), depth)))
    let total = files.reduce((sum, { bytes }) => sum + bytes, 0)
    let freed = 0
    for (const { path, bytes, at } of files.sort((a, b) => a.at - b.at)) {
      if (total <= limit || at > now - IN_USE_MS) break
      await removeFile(path)
      total -= bytes
      freed += bytes
    }
    return freed
  }

  /** Does something with the bucket. @throws {BucketAway} where it can't be reached */
  private async reaching<T>(work: (client: Client) => Promise<T>): Promise<T> {
    const reached = await (this.reached ??= reach())
    try {
      return await work(reached)
    } catch (error) {
      throw isUnreached(error) ? new BucketAway(error) : error
    }
  }

  private isShared(path: string): boolean {
    return SHARED.has(this.nameOf(path).split('/')[0]!)
  }

  private keyOf(path: string): string {
    return this.prefix + this.nameOf(path)
  }

  /** Puts a file into the bucket, from there itself where it is an upload that was shared. */
  private async send(from: string, to: string): Promise<void> {
    const [Bucket, Key] = [this.bucket, this.keyOf(to)]
    const there = from !== to && this.isShared(from) ? await this.head(from) : null
    await this.reaching(async ({ s3, storage, client }) => {
      if (there && there.bytes < COPIED && there.bytes === (await stat(from)).size) {
        const CopySource = `${Bucket}/${encodeURI(this.keyOf(from))}`
        await client.send(new s3.CopyObjectCommand({ Bucket, Key, CopySource }))
        return
      }
      const params = { Bucket, Key, Body: createReadStream(from, { highWaterMark: 1 << 20 }) }
      await new storage.Upload({ client, params, ...PART }).done()
    })
  }

  private async bring(path: string): Promise<boolean> {
    const part = await this.scratch()
    try {
      await this.reaching(async ({ s3, client }) => {
        const { Body } = await client.send(new s3.GetObjectCommand({ Bucket: this.bucket, Key: this.keyOf(path) }))
        await pipeline(Body as Readable, createWriteStream(part))
      })
      await super.publish(part, path)
      return true
    } catch (error) {
      if (isMissing(error)) return false
      throw error
    } finally {
      await removeFile(part)
    }
  }

  private async head(path: string): Promise<{ bytes: number } | null> {
    try {
      return await this.reaching(async ({ s3, client }) => {
        const command = new s3.HeadObjectCommand({ Bucket: this.bucket, Key: this.keyOf(path) })
        return { bytes: (await client.send(command)).ContentLength ?? 0 }
      })
    } catch (error) {
      if (isMissing(error)) return null
      throw error
    }
  }

  private async objects(prefix: string): Promise<Found[]> {
    const found: Found[] = []
    await this.reaching(async ({ s3, client }) => {
      const pages = s3.paginateListObjectsV2({ client }, { Bucket: this.bucket, Prefix: prefix })
      for await (const { Contents } of pages)
        for (const { Key, Size, LastModified } of Contents ?? [])
          found.push({ key: Key!, bytes: Size ?? 0, at: LastModified?.getTime() ?? 0 })
    })
    return found
  }
}

/** Whether an answer of the bucket says that there is no such object. */
function isMissing(error: unknown): boolean {
  return (error as S3ServiceException).$metadata?.httpStatusCode === 404
}
