import { mkdtempSync, rmSync, statSync } from 'node:fs'
import { copyFile, mkdir } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { examine, FolderStorage, hashFile, makeSound } from '@dusk/media'
import type { RenderSettings } from '@dusk/store'
import { applyCommand, assetFacts, commandSchema, reelsOf, type CommandInput, type Project } from '@dusk/timeline'
import { renderReel } from '../src/render/renderReel'
import { soundPath } from '../src/render/soundFiles'
import type { SourceBook } from '../src/render/sources'

/** Carries out a command given as plain input. */
export function perform(project: Project, input: CommandInput): Project {
  return applyCommand(project, commandSchema.parse(input), crypto.randomUUID()).project
}

/** A storage in a folder of its own, and what is known of the sources in it. */
export function testStore(name: string) {
  const dir = mkdtempSync(join(tmpdir(), `dusk-${name}-`))
  const storage = new FolderStorage(join(dir, 'store'))
  const book: SourceBook = new Map()

  /** Takes a file in as the worker does, with the sound of its first stream, and enters it into a project. */
  async function enter(project: Project, id: string, called: string, path: string): Promise<Project> {
    const hash = await hashFile(path)
    await mkdir(dirname(storage.original(hash)), { recursive: true })
    await copyFile(path, storage.original(hash))
    const metadata = await examine(path, statSync(path).size)
    if (metadata.sounds[0]) {
      const sound = soundPath(storage, hash, 0)
      await mkdir(dirname(sound), { recursive: true })
      metadata.sounds[0].samples = await makeSound(path, metadata, 0, sound, `${sound}.waveform`)
    }
    book.set(id, { hash, metadata })
    return perform(project, { type: 'addAsset', asset: assetFacts(id, called, metadata) })
  }

  /** Renders the first reel of a project to a file here: at good quality without sound, where nothing is said. */
  async function renderTo(
    name: string,
    project: Project,
    settings: Partial<RenderSettings> & Pick<RenderSettings, 'width' | 'height' | 'rate'>,
    own = storage,
  ) {
    const out = join(dir, name)
    const all: RenderSettings = { quality: 'good', range: null, sound: false, ...settings }
    const request = { project, reelId: reelsOf(project)[0]!.id, settings: all, book, storage: own, out }
    return { out, report: await renderReel(request) }
  }

  return { dir, storage, book, enter, renderTo, remove: () => rmSync(dir, { recursive: true, force: true }) }
}
