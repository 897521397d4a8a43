import { open, type Entry, type ZipFile } from 'yauzl'

export type { Entry, ZipFile }

/** Opens a ZIP file for reading entry by entry. */
export function openPromise(path: string): Promise<ZipFile> {
  return new Promise((resolve, reject) =>
    open(path, { lazyEntries: true, autoClose: false }, (error, zip) => (error ? reject(error) : resolve(zip!))),
  )
}
