import { existsSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import type { Options } from './options'
import { startCluster } from './cluster'
import { runningProcess } from './pidFile'

/** Stops a studio that runs with this data folder, and its database. */
export async function run({ data }: Options): Promise<void> {
  const pidFile = join(data, 'dusk.pid')
  const pid = runningProcess(pidFile)
  if (pid) {
    process.kill(pid, 'SIGTERM')
    for (let i = 0; i < 150 && runningProcess(pidFile); i++) await new Promise((resolve) => setTimeout(resolve, 100))
    console.log('Stopped.')
    return
  }
  rmSync(pidFile, { force: true })
  if (existsSync(join(data, 'postgres.json'))) await (await startCluster(data)).stop()
  console.log('It was not running; its database is stopped.')
}
