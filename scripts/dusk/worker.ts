import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { startCluster } from './cluster'
import { buildKernels } from './build'
import type { Options } from './options'
import { end, serviceEnv, startWorker } from './processes'
import { readState } from './stateFile'
import { StepFailed } from './steps'

/** One more worker. With DATABASE_URL and DUSK_MEDIA set it works for a studio on another machine. */
export async function run(options: Options): Promise<void> {
  await buildKernels()
  let env: NodeJS.ProcessEnv = process.env
  if (!env.DATABASE_URL || !env.DUSK_MEDIA) {
    if (!existsSync(join(options.data, 'postgres.json')))
      throw new StepFailed(
        'There is no studio with this data folder. Start one with ./dusk start, or set DATABASE_URL and ' +
          'DUSK_MEDIA to work for another machine.',
      )
    const board = readState(options.data)?.board?.port ?? null
    env = serviceEnv(await startCluster(options.data), options.data, options.port, board)
  }
  const worker = startWorker(env)
  process.on('SIGINT', () => void end(worker))
  process.on('SIGTERM', () => void end(worker))
  await new Promise((resolve) => worker.once('exit', resolve))
}
