import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { startCluster } from './cluster'
import { buildRenderer } from './build'
import type { Options } from './options'
import { mediaEnv } from './mediaPlace'
import { end, serviceEnv, startWorker } from './processes'
import { readState } from './stateFile'
import { StepFailed } from './steps'

/**
 * One more worker. With `--database` and `--media`, or DATABASE_URL and DUSK_MEDIA set, it works for a studio on
 * another machine.
 */
export async function run(options: Options): Promise<void> {
  await buildRenderer()
  const { database, media, data } = options
  if (database ? !media : media)
    throw new StepFailed('A worker for another machine needs both --database URL and --media PLACE.')
  let env: NodeJS.ProcessEnv = process.env
  if (database) env = { ...env, DATABASE_URL: database, ...mediaEnv(media, data) }
  if (!env.DATABASE_URL || !env.DUSK_MEDIA) {
    if (!existsSync(join(data, 'postgres.json')))
      throw new StepFailed(
        'There is no studio with this data folder. Start one with ./dusk start, or say --database URL and ' +
          '--media PLACE to work for another machine.',
      )
    const state = readState(data)
    const board = state?.board?.port ?? null
    env = serviceEnv(await startCluster(data), data, options.port, board, state?.media ?? media)
  }
  const worker = startWorker(env)
  process.on('SIGINT', () => void end(worker))
  process.on('SIGTERM', () => void end(worker))
  await new Promise((resolve) => worker.once('exit', resolve))
}
