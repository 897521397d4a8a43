import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { ROOT } from './options'
import { run, step } from './steps'

/** Where the shelf lies once it is made; its name follows from the code that makes it. */
export function shelfFolder(): string {
  const hash = createHash('sha256')
  for (const folder of ['demo/shelf', 'demo/src/audio'])
    for (const name of readdirSync(join(ROOT, folder)).sort()) hash.update(readFileSync(join(ROOT, folder, name)))
  return join(ROOT, 'node_modules/.cache/dusk-shelf', hash.digest('hex').slice(0, 16))
}

/** Makes the shelf of our own sounds, music and pictures, once. */
export async function makeShelf(): Promise<void> {
  const folder = shelfFolder()
  if (existsSync(folder)) return
  await step('Made the shelf', async () => {
    const scratch = `${folder}.part`
    rmSync(scratch, { recursive: true, force: true })
    mkdirSync(scratch, { recursive: true })
    await run('Making the shelf', 'node', ['--import', 'tsx', join(ROOT, 'demo/shelf/main.ts'), scratch], { cwd: ROOT })
    renameSync(scratch, folder)
  })
}
