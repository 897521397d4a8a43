import { createHash, randomBytes } from 'node:crypto'
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { FolderStorage, hashUpload, removeUpload, UploadHasher } from '../src/index'

const dir = mkdtempSync(join(tmpdir(), 'dusk-hash-'))
afterAll(() => rmSync(dir, { recursive: true, force: true }))
const storage = new FolderStorage(dir)

const bytes = randomBytes(100_000)
const sha = (data: Uint8Array) => createHash('sha256').update(data).digest('hex')

/** An upload of the bytes in parts, each with the place where it begins. */
async function uploaded(name: string, parts: [from: number, to: number][], stored = bytes) {
  const path = join(dir, name)
  writeFileSync(path, stored)
  writeFileSync(`${path}.json`, '{}')
  const hasher = new UploadHasher()
  for (const [from, to] of parts) hasher.part(name, from)?.(bytes.subarray(from, to))
  await hasher.finish(name, path, bytes.length)
  return path
}

describe('the hash of an upload', () => {
  it('is taken while its parts come, and not read again', async () => {
    const parts: [number, number][] = [
      [0, 40_000],
      [40_000, 40_001],
      [40_001, 100_000],
    ]
    // The file holds something else here: what was taken is what is given.
    const path = await uploaded('in parts', parts, randomBytes(bytes.length))
    expect(await hashUpload(storage, path)).toBe(sha(bytes))
    await removeUpload(storage, path)
    for (const name of [path, `${path}.json`, `${path}.sha256`]) expect(existsSync(name)).toBe(false)
  })

  it('is read from the file where a part was lost, sent twice, or seen by another process', async () => {
    for (const parts of [
      [[0, 50_000]],
      [[50_000, 100_000]],
      [
        [0, 60_000],
        [50_000, 100_000],
      ],
    ] as [number, number][][]) {
      const path = await uploaded(`broken ${parts.length} ${parts[0]![0]}`, parts)
      expect(existsSync(`${path}.sha256`)).toBe(false)
      expect(await hashUpload(storage, path)).toBe(sha(bytes))
    }
  })

  it('begins again with an upload that does, and is not believed for a file of another size', async () => {
    const again = await uploaded('again', [
      [0, 30_000],
      [0, 100_000],
    ])
    expect(existsSync(`${again}.sha256`)).toBe(true)
    expect(await hashUpload(storage, again)).toBe(sha(bytes))
    writeFileSync(again, 'cut short')
    expect(await hashUpload(storage, again)).toBe(sha(Buffer.from('cut short')))
  })
})
