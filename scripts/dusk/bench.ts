import { spawnSync } from 'node:child_process'
import { readdirSync } from 'node:fs'
import { join } from 'node:path'
import { buildRenderer } from './build'
import { ROOT, type Options } from './options'
import { StepFailed } from './steps'

/** Runs the measurements in `bench/`, all or one. */
export async function run({ positionals }: Options): Promise<void> {
  await buildRenderer()
  const all = readdirSync(join(ROOT, 'bench'))
    .filter((name) => name.endsWith('.bench.ts'))
    .map((name) => name.replace('.bench.ts', ''))
    .sort()
  const wanted = positionals.length > 0 ? positionals : all
  for (const name of wanted) {
    if (!all.includes(name)) throw new StepFailed(`There is no measurement ${name}. There are: ${all.join(', ')}.`)
    console.log(`\n${name}`)
    const { status } = spawnSync('node', ['--import', 'tsx', join('bench', `${name}.bench.ts`)], {
      cwd: ROOT,
      stdio: 'inherit',
    })
    if (status !== 0) throw new StepFailed(`The measurement ${name} failed; its own words are above.`)
  }
}
