import { existsSync, readFileSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import type { Options } from './options'
import { startCluster } from './cluster'
import { alive } from './start'

/** Stops a studio that runs with this data folder, and its database. */
export async function run({ data }: Options): Promise<void> {
  const pidFile = join(data, 'dusk.pid')
  const pid = existsSync(pidFile) ? Number(readFileSync(pidFile, 'utf8')) : 0
  if (pid && alive(pid)) {
    process.kill(pid, 'SIGTERM')
    for (let i = 0; i < 150 && alive(pid); i++) await new Promise((resolve) => setTimeout(resolve, 100))
    console.log('Stopped.')
    return
  }
  rmSync(pidFile, { force: true })
  if (existsSync(join(data, 'postgres.json'))) await (await startCluster(data)).stop()
  console.log('It was not running; its database is stopped.')
}
