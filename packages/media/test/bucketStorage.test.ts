import { existsSync, mkdirSync, readFileSync, statSync, utimesSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { randomBytes } from 'node:crypto'
import { describe, expect, it } from 'vitest'
import {
  BUCKET_AWAY,
  BucketAway,
  type BucketStorage,
  FolderStorage,
  hashUpload,
  openStorage,
  removeUpload,
  shareUpload,
  waitsFor,
} from '../src/index'
import { bucketForTests } from './bucketStand'
import { folder } from './helpers'

const dir = folder()
const HASH = 'ab'.padEnd(64, '0')
const KEY = 'cd'.padEnd(64, '1')
const stand = bucketForTests()

/** The storage of another machine before the same bucket. */
const machine = (name: string) => openStorage({ folder: join(dir, name), bucket: stand().address }) as BucketStorage

async function published(storage: BucketStorage, to: string, bytes: Buffer | string): Promise<void> {
  const scratch = await storage.scratch()
  writeFileSync(scratch, bytes)
  await storage.publish(scratch, to)
}

describe('storage in a bucket', () => {
  it('has on every machine what one has published', async () => {
    const [one, other] = [machine('one'), machine('other')]
    // More than one part of an upload.
    const bytes = randomBytes(20 * 1024 ** 2)
    await published(one, one.original(HASH), bytes)
    expect(existsSync(one.original(HASH))).toBe(true)
    expect(existsSync(other.original(HASH))).toBe(false)
    expect(await other.has(other.original(HASH))).toBe(true)
    // Two that want it at once bring it once.
    expect(await Promise.all([0, 1].map(() => other.fetch(other.original(HASH))))).toEqual([true, true])
    expect(readFileSync(other.original(HASH)).equals(bytes)).toBe(true)
    expect(await other.fetch(other.original(KEY))).toBe(false)
    expect(await other.has(other.original(KEY))).toBe(false)
  })

  it('gives scratch that is this machine’s own, and publishes from a set of it', async () => {
    const storage = machine('scratching')
    const set = storage.scratchSet()
    const [kept, left] = [await set.scratch('.mp4'), await set.scratch('.mp4')]
    writeFileSync(kept, 'kept')
    writeFileSync(left, 'left')
    await set.publish(kept, storage.artefact(KEY, 'proxy.mp4'))
    await set.clear()
    expect(existsSync(left)).toBe(false)
    expect(await machine('far').fetch(machine('far').artefact(KEY, 'proxy.mp4'))).toBe(true)
    expect(await machine('far').has(left)).toBe(false)
  })

  it('hands an upload over with the hash that was taken of it, and copies it to its place in the bucket', async () => {
    const [studio, worker] = [machine('studio'), machine('worker')]
    const path = studio.path('uploads', 'boat')
    mkdirSync(dirname(path), { recursive: true })
    writeFileSync(path, 'a boat')
    writeFileSync(`${path}.json`, '{}')
    writeFileSync(`${path}.sha256`, JSON.stringify({ hash: HASH, size: 6 }))
    await shareUpload(studio, path)
    const name = studio.nameOf(path)
    expect(name).toBe('uploads/boat')
    const there = worker.at(name)
    expect(await worker.fetch(there)).toBe(true)
    expect(await hashUpload(worker, there)).toBe(HASH)
    await worker.publish(there, worker.original(KEY))
    await removeUpload(worker, there)
    expect(await machine('third').fetch(machine('third').original(KEY))).toBe(true)
    expect(readFileSync(machine('third').original(KEY), 'utf8')).toBe('a boat')
    expect(await machine('third').has(machine('third').path('uploads', 'boat'))).toBe(false)
  })

  it('lists, measures and removes what is in the bucket, whoever put it there', async () => {
    const [one, other] = [machine('list one'), machine('list other')]
    const made = 'ef'.padEnd(64, '2')
    await published(one, one.artefact(made, 'proxy.mp4'), 'twelve bytes')
    await published(one, one.artefact(made, 'strip.jpg'), 'strip')
    const artefact = async () => (await other.list(other.path('artefacts'), 2)).find(({ name }) => name === made)
    expect(await artefact()).toMatchObject({ path: other.artefactFolder(made), bytes: 17 })
    expect(Math.abs((await artefact())!.at - Date.now())).toBeLessThan(60_000)
    expect(await other.size(other.artefactFolder(made))).toEqual({ bytes: 17, files: 2 })
    await other.remove(other.artefactFolder(made))
    expect(await artefact()).toBeUndefined()
    const third = machine('list third')
    expect(await third.fetch(third.artefact(made, 'strip.jpg'))).toBe(false)
    // Nothing of the neighbours went with it.
    expect(await other.has(other.original(HASH))).toBe(true)
  })

  it('says of what was used that it is new, here and in the bucket', async () => {
    const storage = machine('touching')
    const chunk = storage.path('chunks', 'aa', `${HASH}.ts`)
    await published(storage, chunk, 'chunk')
    utimesSync(chunk, new Date(0), new Date(0))
    await storage.touch(chunk)
    expect(Date.now() - statSync(chunk).mtimeMs).toBeLessThan(60_000)
    // A copy onto itself gives an object a new date.
    expect(stand().copied.at(-1)).toBe(`evening/chunks/aa/${HASH}.ts`)
    expect(readFileSync(chunk, 'utf8')).toBe('chunk')
  })

  it('keeps this machine’s folder within a limit, and brings back what went', async () => {
    const storage = machine('small')
    const paths = ['a', 'b', 'c'].map((name) => storage.original(name.padEnd(64, '7')))
    for (const path of paths) await published(storage, path, Buffer.alloc(1000))
    const long = (hours: number) => new Date(Date.now() - hours * 3_600_000)
    utimesSync(paths[0]!, long(3), long(3))
    utimesSync(paths[1]!, long(5), long(5))
    expect(await storage.trim(2500)).toBe(1000)
    expect(paths.map((path) => existsSync(path))).toEqual([true, false, true])
    // What was used within the hour stays, whatever the limit.
    expect(await storage.trim(0)).toBe(1000)
    expect(paths.map((path) => existsSync(path))).toEqual([false, false, true])
    expect(await storage.fetch(paths[1]!)).toBe(true)
    expect(statSync(paths[1]!).size).toBe(1000)
  })

  it('says when the bucket does not answer, and goes on once it does', async () => {
    const storage = machine('pier')
    const { AWS_ENDPOINT_URL_S3: there } = process.env
    process.env.AWS_ENDPOINT_URL_S3 = 'http://127.0.0.1:9'
    const away = machine('quay')
    const path = away.path('given', 'a'.repeat(64))
    const list = () => away.list(away.path('given'), 1)
    for (const ask of [() => away.has(path), () => away.fetch(path), () => away.remove(path), list]) {
      const error = await (ask() as Promise<unknown>).then(
        () => null,
        (failed: Error) => failed,
      )
      expect(error).toBeInstanceOf(BucketAway)
      expect(waitsFor(new Error('Failed', { cause: error }))).toBe(BUCKET_AWAY)
    }
    const part = await away.scratch()
    writeFileSync(part, 'light')
    await expect(away.publish(part, away.path('given', 'b'.repeat(64)))).rejects.toThrow('does not answer')
    // Neither is what is not in its place, nor a fault of another kind.
    process.env.AWS_ENDPOINT_URL_S3 = there
    expect(await storage.has(storage.path('given', 'a'.repeat(64)))).toBe(false)
    expect(waitsFor(new Error('The address is wrong.'))).toBeNull()
    const back = machine('quay')
    await back.publish(part, back.path('given', 'b'.repeat(64)))
    expect(await storage.fetch(storage.path('given', 'b'.repeat(64)))).toBe(true)
  })

  it('says what an address has to look like', () => {
    for (const bucket of ['lanterns', 's3://', 'https://lanterns', 's3://No_Bucket'])
      expect(() => openStorage({ folder: dir, bucket })).toThrow(/s3:\/\/bucket/)
    expect(openStorage({ folder: dir, bucket: null })).toBeInstanceOf(FolderStorage)
  })
})
