import { createHash } from 'node:crypto'
import { execFile } from 'node:child_process'
import { readdir, readFile } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { promisify } from 'node:util'
import { createEngine, type Engine } from '@dusk/compositor'

const packages = join(dirname(fileURLToPath(import.meta.url)), '../../../../packages')
const kernelsPath = join(packages, 'compositor/build/kernels.wasm')

/** Starts the kernels in Node. @throws when they were not built */
export async function nodeEngine(): Promise<Engine> {
  return createEngine(await readFile(kernelsPath))
}

let known: Promise<string> | null = null

/**
 * A name for everything that decides a frame's bytes: the kernels, the code that plans and draws, and ffmpeg's
 * build.
 */
export function engineName(): Promise<string> {
  known ??= (async () => {
    const hash = createHash('sha256')
    hash.update(await readFile(kernelsPath))
    for (const folder of ['compositor/src', 'timeline/src/evaluate', 'timeline/src/params', 'media/src']) {
      const names = (await readdir(join(packages, folder), { recursive: true }))
        .filter((name) => name.endsWith('.ts'))
        .sort()
      for (const name of names) hash.update(await readFile(join(packages, folder, name)))
    }
    // Versions of the letters and of what draws them.
    hash.update(await readFile(join(packages, 'compositor/package.json')))
    const { stdout } = await promisify(execFile)('ffmpeg', ['-version'])
    hash.update(stdout)
    return hash.digest('hex').slice(0, 16)
  })()
  return known
}
