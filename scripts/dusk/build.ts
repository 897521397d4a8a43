import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { ROOT } from './options'
import { run, step } from './steps'

/** A hash over the names, sizes and contents of the files below some folders. */
function fingerprint(paths: string[]): string {
  const hash = createHash('sha256')
  const visit = (path: string) => {
    if (!existsSync(path)) return
    if (statSync(path).isDirectory()) {
      for (const name of readdirSync(path).sort())
        if (!['node_modules', '.nuxt', '.output', 'build', 'test'].includes(name)) visit(join(path, name))
    } else hash.update(path.slice(ROOT.length)).update(readFileSync(path))
  }
  paths.forEach(visit)
  return hash.digest('hex')
}

async function whenChanged(
  what: string,
  sources: string[],
  product: string,
  build: () => Promise<unknown>,
): Promise<void> {
  const stamp = join(ROOT, 'node_modules/.cache/dusk', what.replaceAll(' ', '-'))
  const now = fingerprint(sources.map((path) => join(ROOT, path)))
  const before = existsSync(stamp) ? readFileSync(stamp, 'utf8') : ''
  if (before === now && existsSync(join(ROOT, product))) return
  await step(`Built ${what}`, build)
  mkdirSync(dirname(stamp), { recursive: true })
  writeFileSync(stamp, now)
}

let kernels: Promise<void> | null = null

/**
 * Compiles the kernels, and takes the stretcher out of its package, when what they come from changed. Whoever needs
 * them asks; they are built once.
 */
export function buildKernels(): Promise<void> {
  return (kernels ??= whenChanged(
    'the kernels',
    [
      'packages/compositor/kernels',
      'packages/compositor/package.json',
      'packages/sound/package.json',
      'packages/sound/build-kernels.mjs',
      'packages/sound/build-stretcher.mjs',
      'packages/sound/kernels',
    ],
    'packages/sound/build/kernels.ts',
    () =>
      Promise.all(
        ['@dusk/compositor', '@dusk/sound'].map((name) =>
          run('Building the kernels', 'npm', ['run', 'build', '-w', name], { cwd: ROOT }),
        ),
      ),
  ))
}

/** Builds the worker, and the thread that draws, when anything they are made of changed. */
export async function buildRenderer(): Promise<void> {
  await buildKernels()
  await whenChanged(
    'the renderer',
    ['apps/renderer', 'packages', 'package-lock.json'],
    'apps/renderer/build/chunkThread.mjs',
    () => run('Building the renderer', 'npm', ['run', 'build:renderer'], { cwd: ROOT }),
  )
}

/** Builds the studio when anything it is made of changed. */
export async function buildStudio(): Promise<void> {
  await buildKernels()
  await whenChanged(
    'the studio',
    ['apps/studio', 'packages', 'package-lock.json'],
    'apps/studio/.output/server/index.mjs',
    () =>
      run('Building the studio', 'npm', ['run', 'build:studio'], {
        cwd: ROOT,
        env: { ...process.env, NUXT_TELEMETRY_DISABLED: '1' },
      }),
  )
}
