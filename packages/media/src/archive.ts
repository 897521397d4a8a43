import { createHash } from 'node:crypto'
import { createWriteStream } from 'node:fs'
import { Transform, type Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { listEntries, openEntry, openPromise, type Entry, type ZipFile } from './zip'
import { ZipFile as ZipWriter } from 'yazl'
import { readManifest, writeManifest, type Manifest } from '@dusk/interchange'
import { filesOfProject } from '@dusk/timeline'
import { removeFile, type Storage } from './storage'

/**
 * Writes a project with its media as a stream of ZIP bytes. Media are stored, not squeezed: they are already. Each file
 * that the manifest names has to be there.
 */
export async function writeArchive(manifest: Manifest, storage: Storage): Promise<Readable> {
  const zip = new ZipWriter()
  zip.addBuffer(Buffer.from(writeManifest(manifest)), 'project.json')
  for (const hash of new Set(Object.values(manifest.media).map((entry) => entry.hash))) {
    await storage.fetch(storage.original(hash))
    zip.addFile(storage.original(hash), `media/${hash}`, { compress: false })
  }
  for (const hash of filesOfProject(manifest.project))
    // One that was lost is lost in the archive too; the effect or title says so.
    if (await storage.fetch(storage.given(hash))) zip.addFile(storage.given(hash), `files/${hash}`)
  zip.end()
  return zip.outputStream as unknown as Readable
}

/** Largest file of an effect or a title that is read. */
const GIVEN_LIMIT = 80 * 1024 ** 2
/** Largest manifest that is read. */
const MANIFEST_LIMIT = 64 * 1024 ** 2

/**
 * Reads an archive and puts its media into storage, each checked against its hash.
 * @throws {Error} in words when it is not a whole `.duskreel`
 */
export async function readArchive(path: string, storage: Storage): Promise<Manifest> {
  let zip: ZipFile
  try {
    zip = await openPromise(path)
  } catch {
    throw new Error('This is not a .duskreel archive, or its end is missing. Copy it again from where it came from.')
  }
  try {
    const entries = await listEntries(zip)
    const entry = entries.get('project.json')
    if (!entry) throw new Error('This archive holds no project.json; it is not a .duskreel.')
    if (entry.uncompressedSize > MANIFEST_LIMIT) throw new Error('project.json in this archive is too large to be one.')
    const parts: Buffer[] = []
    let read = 0
    for await (const part of await openEntry(zip, entry)) {
      // What an entry says of its size need not be true.
      if ((read += (part as Buffer).length) > MANIFEST_LIMIT)
        throw new Error('project.json in this archive is too large to be one.')
      parts.push(part as Buffer)
    }
    const manifest = readManifest(Buffer.concat(parts).toString('utf8'))
    for (const { hash, fileName } of Object.values(manifest.media)) {
      const file = entries.get(`media/${hash}`)
      if (!file) throw new Error(`The archive lacks the file of ${fileName}.`)
      await unpack(zip, file, hash, fileName, storage, storage.original(hash))
    }
    for (const hash of filesOfProject(manifest.project)) {
      const file = entries.get(`files/${hash}`)
      if (!file) continue
      if (file.uncompressedSize > GIVEN_LIMIT)
        throw new Error('A table of colours or a font in this archive is too large.')
      await unpack(zip, file, hash, 'A table of colours or a font', storage, storage.given(hash))
    }
    return manifest
  } finally {
    zip.close()
  }
}

/** Writes an entry to its place, once it is known to be what its name says. */
async function unpack(
  zip: ZipFile,
  entry: Entry,
  hash: string,
  name: string,
  storage: Storage,
  to: string,
): Promise<void> {
  const scratch = await storage.scratch()
  const sum = createHash('sha256')
  const count = new Transform({
    transform(part: Buffer, _encoding, done) {
      sum.update(part)
      done(null, part)
    },
  })
  try {
    await pipeline(await openEntry(zip, entry), count, createWriteStream(scratch))
    if (sum.digest('hex') !== hash) throw new Error(`${name} in this archive is damaged.`)
    await storage.publish(scratch, to)
  } finally {
    await removeFile(scratch)
  }
}
