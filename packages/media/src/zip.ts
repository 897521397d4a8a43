import { once } from 'node:events'
import type { Readable } from 'node:stream'
import { buffer } from 'node:stream/consumers'
import { promisify } from 'node:util'
import { open, type Entry, type ZipFile } from 'yauzl'

export type { Entry, ZipFile }

/** Opens a ZIP file for reading entry by entry. */
export function openPromise(path: string): Promise<ZipFile> {
  return new Promise((resolve, reject) =>
    open(path, { lazyEntries: true, autoClose: false }, (error, zip) => (error ? reject(error) : resolve(zip!))),
  )
}

/** What a ZIP file holds, by name, in its order. */
export async function listEntries(zip: ZipFile): Promise<Map<string, Entry>> {
  const entries = new Map<string, Entry>()
  zip.on('entry', (entry: Entry) => {
    entries.set(entry.fileName, entry)
    zip.readEntry()
  })
  const end = once(zip, 'end')
  zip.readEntry()
  await end
  return entries
}

/** Bytes of an entry, as they are read. */
export function openEntry(zip: ZipFile, entry: Entry): Promise<Readable> {
  return promisify(
    zip.openReadStream.bind(zip) as (entry: Entry, done: (error: Error | null, stream: Readable) => void) => void,
  )(entry)
}

/** One of the files in a ZIP file, whole. @param part how far along it lies, from 0 to 1 */
export async function zippedFile(path: string, part: number): Promise<Buffer> {
  const zip = await openPromise(path)
  try {
    const entries = [...(await listEntries(zip)).values()]
    const entry = entries[Math.floor(part * (entries.length - 1))]
    if (!entry) throw new Error(`There is no file in ${path}.`)
    return await buffer(await openEntry(zip, entry))
  } finally {
    zip.close()
  }
}
