import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { buildKernels } from './build'
import { ROOT } from './options'
import { run, step } from './steps'

/** Where the stock lies once it is made; its name follows from the code that makes it. */
export function stockFolder(): string {
  const hash = createHash('sha256')
  for (const folder of ['demo/stock', 'demo/src/audio'])
    for (const name of readdirSync(join(ROOT, folder)).sort()) hash.update(readFileSync(join(ROOT, folder, name)))
  return join(ROOT, 'node_modules/.cache/dusk-stock', hash.digest('hex').slice(0, 16))
}

/** Makes the stock of our own sounds, music and pictures, once. */
export async function makeStock(): Promise<void> {
  const folder = stockFolder()
  if (existsSync(folder)) return
  // Its sounds are made by the kernels.
  await buildKernels()
  await step('Made the stock', async () => {
    const scratch = `${folder}.part`
    rmSync(scratch, { recursive: true, force: true })
    mkdirSync(scratch, { recursive: true })
    await run('Making the stock', 'node', ['--import', 'tsx', join(ROOT, 'demo/stock/main.ts'), scratch], { cwd: ROOT })
    renameSync(scratch, folder)
  })
}
