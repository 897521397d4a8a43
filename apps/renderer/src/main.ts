import { FolderStorage } from '@dusk/media'
import { connect, ProjectLog, Queue } from '@dusk/store'
import { examineAsset } from './jobs/examine'
import { makePreviewFiles } from './jobs/make'
import { recoverLostWork, recoverWaiting } from './jobs/recover'
import { runRender } from './jobs/render'
import type { Context } from './jobs/context'

/** The worker process: takes jobs from the queue until it is told to stop. Start as many as there are machines. */
async function main(): Promise<void> {
  const url = process.env.DATABASE_URL
  const folder = process.env.DUSK_MEDIA
  if (!url || !folder) throw new Error('DATABASE_URL and DUSK_MEDIA must be set. ./dusk worker does it.')
  const stop = new AbortController()
  const connection = connect(url)
  const queue = new Queue(url)
  const context: Context = {
    connection,
    log: new ProjectLog(connection),
    queue,
    storage: new FolderStorage(folder),
    stopping: stop.signal,
  }
  await queue.ready()
  await recoverWaiting(context)
  await queue.work('examine', 2, ({ assetId }) => examineAsset(context, assetId))
  await queue.work('make', 1, ({ hash }) => makePreviewFiles(context, hash))
  await queue.work('render', 1, ({ renderId, attempt }) => runRender(context, renderId, attempt))
  await recoverLostWork(context)
  const sweep = setInterval(
    () => void recoverLostWork(context).catch((error) => console.error('Recovery:', error)),
    5_000,
  )
  console.log('Worker ready.')

  const end = async () => {
    clearInterval(sweep)
    stop.abort(new Error('The worker stops.'))
    await new Promise((resolve) => setTimeout(resolve, 300))
    await queue.stop().catch(() => {})
    await connection.close().catch(() => {})
    process.exit(0)
  }
  process.once('SIGTERM', () => void end())
  process.once('SIGINT', () => void end())
}

await main()
