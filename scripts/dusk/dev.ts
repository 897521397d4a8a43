import { buildKernels } from './build'
import { loadDemo } from './demo'
import { ROOT, type Options } from './options'
import { end, openDatabase, serviceEnv, service, startWorker, waitFor } from './processes'

/** The studio rebuilt as its sources change, with database and worker beside it. */
export async function run(options: Options): Promise<void> {
  const cluster = await openDatabase(options.data)
  await buildKernels()
  const env = { ...serviceEnv(cluster, options.data, options.port), NODE_ENV: 'development' }
  const studio = service(
    'npx',
    ['nuxt', 'dev', '--port', String(options.port), '--host', '127.0.0.1'],
    env,
    `${ROOT}/apps/studio`,
  )
  const worker = startWorker(env)
  const stop = async () => {
    await Promise.all([end(studio), end(worker)])
    await cluster.stop()
    process.exit(0)
  }
  process.on('SIGINT', () => void stop())
  process.on('SIGTERM', () => void stop())
  await waitFor(`http://127.0.0.1:${options.port}/api/health`, studio, 120)
  if (!options['no-demo']) await loadDemo(`http://127.0.0.1:${options.port}`, cluster.url)
}
