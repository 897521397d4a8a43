import { createHash, randomUUID } from 'node:crypto'
import { createWriteStream, mkdtempSync, rmSync } from 'node:fs'
import { mkdir, readFile, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { pipeline } from 'node:stream/promises'
import { afterAll, describe, expect, it } from 'vitest'
import { CLIP_DEFAULTS, createProject, ownFontValue, type Project } from '@dusk/timeline'
import { exists, FolderStorage, readArchive, writeArchive } from '../src/index'

const dir = mkdtempSync(join(tmpdir(), 'dusk-archive-'))
afterAll(() => rmSync(dir, { recursive: true, force: true }))

const CUBE = 'LUT_1D_SIZE 2\n1 1 1\n0 0 0\n'
const HASH = createHash('sha256').update(CUBE).digest('hex')

/** A project whose reel has an effect that names a file. */
function withTable(): Project {
  const project = createProject('Lantern Night', { width: 640, height: 360, rate: { num: 25, den: 1 } })
  const ownerId = Object.keys(project.reels)[0]!
  const id = randomUUID()
  const effect = { id, owner: 'reel' as const, ownerId, order: 'a', domain: 'picture' as const, kind: 'lutFile' }
  return { ...project, effects: { [id]: { ...effect, on: true, strength: 100, settings: { file: HASH } } } }
}

async function storageWith(name: string, content?: string): Promise<FolderStorage> {
  const storage = new FolderStorage(join(dir, name))
  if (content !== undefined) {
    await mkdir(dirname(storage.given(HASH)), { recursive: true })
    await writeFile(storage.given(HASH), content)
  }
  return storage
}
async function archived(storage: FolderStorage): Promise<string> {
  const path = join(dir, `${randomUUID()}.duskreel`)
  await pipeline(await writeArchive({ project: withTable(), media: {} }, storage), createWriteStream(path))
  return path
}

describe('archives', () => {
  it('carry the tables of colours that effects name', async () => {
    const path = await archived(await storageWith('from', CUBE))
    const other = await storageWith('to')
    const { project } = await readArchive(path, other)
    expect(Object.values(project.effects)).toMatchObject([{ kind: 'lutFile', settings: { file: HASH } }])
    expect(await readFile(other.given(HASH), 'utf8')).toBe(CUBE)
  })

  it('carry the fonts that titles are set in', async () => {
    const storage = await storageWith('fonts', CUBE)
    const project = createProject('Lantern Night', { width: 640, height: 360, rate: { num: 25, den: 1 } })
    const trackId = Object.keys(project.tracks)[0]!
    const id = randomUUID()
    const font = ownFontValue({ name: 'Harbour', hash: HASH })
    const title = { text: 'Lights', style: {}, runs: [{ from: 0, to: 2, style: { font } }] }
    const clip = {
      ...CLIP_DEFAULTS,
      ...{ id, trackId, kind: 'title' as const, stream: null, start: 0, length: 705_600_000, params: {} },
      map: { kind: 'constant' as const, source: 0, speed: 1 },
      title: { ...title, in: null, out: null, during: null },
    }
    const path = join(dir, `${randomUUID()}.duskreel`)
    const manifest = { project: { ...project, clips: { [id]: clip } }, media: {} }
    await pipeline(await writeArchive(manifest as never, storage), createWriteStream(path))
    const other = await storageWith('fonts to')
    await readArchive(path, other)
    expect(await readFile(other.given(HASH), 'utf8')).toBe(CUBE)
  })

  it('open without a table that was lost', async () => {
    const other = await storageWith('lost')
    await readArchive(await archived(await storageWith('none')), other)
    expect(await exists(other.given(HASH))).toBe(false)
  })

  it('are refused when a table is not what its name says', async () => {
    const path = await archived(await storageWith('damaged', `${CUBE}# changed`))
    const other = await storageWith('refusing')
    await expect(readArchive(path, other)).rejects.toThrow('A table of colours or a font in this archive is damaged.')
    expect(await exists(other.given(HASH))).toBe(false)
  })
})
