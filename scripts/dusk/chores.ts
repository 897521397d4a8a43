import { spawnSync } from 'node:child_process'
import { ROOT, type Options } from './options'
import { buildKernels } from './build'

/** Lint, format and type check, as `npm run` knows them. */
export async function run({ command }: Options): Promise<void> {
  await buildKernels()
  // The type check does it by itself.
  if (command === 'lint') spawnSync('npm', ['run', 'prepare:studio'], { cwd: ROOT, stdio: 'ignore' })
  const { status } = spawnSync('npm', ['run', command], { cwd: ROOT, stdio: 'inherit' })
  process.exit(status ?? 1)
}
