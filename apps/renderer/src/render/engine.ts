import { createHash } from 'node:crypto'
import { execFile } from 'node:child_process'
import { readdir, readFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import { promisify } from 'node:util'
import { createEngine, type Engine } from '@dusk/compositor'

const kernelsPath = createRequire(import.meta.url).resolve('@dusk/compositor/kernels.wasm')
const packages = join(dirname(kernelsPath), '../..')

/** Starts the kernels in Node. @throws when they were not built */
export async function nodeEngine(): Promise<Engine> {
  return createEngine(await readFile(kernelsPath))
}

let pictures: Promise<string> | null = null
let sounds: Promise<string> | null = null

/**
 * A name for everything that decides a frame's bytes: the kernels, the code that plans and draws, and ffmpeg's
 * build.
 */
export function engineName(): Promise<string> {
  return (pictures ??= nameOf(
    ['compositor/build/kernels.wasm', 'compositor/package.json'],
    ['compositor/src', 'timeline/src/evaluate', 'timeline/src/params', 'media/src'],
  ))
}

/** The same for a sample's: what mixes and measures. */
export function soundEngineName(): Promise<string> {
  return (sounds ??= nameOf(
    ['sound/build/kernels.wasm', 'sound/package.json'],
    ['sound/src', 'timeline/src/evaluate', 'timeline/src/params', 'media/src', '../apps/renderer/src/render'],
  ))
}

/** @param files and `folders` with sources, from where the packages lie */
async function nameOf(files: readonly string[], folders: readonly string[]): Promise<string> {
  const hash = createHash('sha256')
  // Versions of what draws letters, and of what stretches sounds, are named beside the kernels.
  for (const file of files) hash.update(await readFile(join(packages, file)))
  for (const folder of folders) {
    const names = (await readdir(join(packages, folder), { recursive: true }))
      .filter((name) => name.endsWith('.ts'))
      .sort()
    for (const name of names) hash.update(await readFile(join(packages, folder, name)))
  }
  const { stdout } = await promisify(execFile)('ffmpeg', ['-version'])
  hash.update(stdout)
  return hash.digest('hex').slice(0, 16)
}
