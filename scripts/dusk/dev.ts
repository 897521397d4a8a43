import { buildRenderer } from './build'
import { loadDemo } from './demo'
import { showLink } from './open'
import { ROOT, type Options } from './options'
import { makeStock } from './stock'
import {
  boardPortFor,
  end,
  localStudio,
  openDatabase,
  service,
  serviceEnv,
  startBoard,
  startWorker,
  waitFor,
} from './processes'

/** The studio rebuilt as its sources change, with database and worker beside it. */
export async function run(options: Options): Promise<void> {
  const { data, port } = options
  const cluster = await openDatabase(data)
  await Promise.all([buildRenderer(), makeStock()])
  const env = { ...serviceEnv(cluster, data, port, await boardPortFor(port)), NODE_ENV: 'development' }
  // Called without npx and without its own fork, so that it is the process that ends with this one.
  const nuxt = [`${ROOT}/node_modules/nuxt/bin/nuxt.mjs`, 'dev', '--no-fork']
  const studio = service('node', [...nuxt, '--port', String(port), '--host', '127.0.0.1'], env, `${ROOT}/apps/studio`)
  const worker = startWorker(env)
  const board = startBoard(env)
  const stop = async (code: number) => {
    await Promise.all([end(studio), end(worker), end(board)])
    await cluster.stop()
    process.exit(code)
  }
  process.on('SIGINT', () => void stop(0))
  process.on('SIGTERM', () => void stop(0))
  try {
    const client = localStudio(data, port)
    await waitFor(client, studio, 120)
    if (!options['no-demo']) await loadDemo(client, cluster.url)
    await showLink(client, client.origin)
    console.log('It follows your changes. Ctrl-C stops it.')
  } catch (error) {
    console.error(`\n${(error as Error).message}`)
    await stop(1)
  }
}
