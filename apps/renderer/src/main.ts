import {
  BucketStorage,
  clearLeftScratch,
  openStorage,
  passingFiles,
  saidWaiting,
  standBackWhen,
  storagePlace,
  WAITING_FILE,
} from '@dusk/media'
import { connect, ProjectLog, Queue, takeUpAgain } from '@dusk/store'
import { afterGlances } from './jobs/afterGlances'
import { makeArtefact } from './jobs/artefact'
import { runEstimate } from './jobs/estimate'
import { OwnHardware } from './jobs/ownHardware'
import { drawPoster } from './jobs/poster'
import { postFilm } from './jobs/post'
import { probeAsset } from './jobs/probe'
import { runRender } from './jobs/render'
import { helpRender } from './jobs/shareRender'
import { tidy } from './jobs/tidy'
import type { Context } from './jobs/context'
import { sweep } from './sweep'

/** How often work that fell silent is looked for, in milliseconds. */
const RECOVER_MS = 4_000
/** How often, and how soon after the start, what nothing needs any more is swept away. */
const SWEEP_MS = 15 * 60_000
const FIRST_SWEEP_MS = 60_000

/** What a machine keeps of a bucket for the next time, in bytes. */
const CACHE_BYTES = Number(process.env.DUSK_CACHE_BYTES ?? 50 * 1024 ** 3)

/** The worker process: takes jobs from the queue until it is told to stop. Start as many as there are machines. */
async function main(): Promise<void> {
  const url = process.env.DATABASE_URL
  const place = storagePlace(process.env)
  if (!url || !place) throw new Error('DATABASE_URL and DUSK_MEDIA must be set. ./dusk worker does it.')
  const stop = new AbortController()
  const connection = connect(url)
  const queue = new Queue(url)
  const storage = openStorage(place)
  const hardware = new OwnHardware(connection.db, stop.signal)
  const context: Context = {
    connection,
    hardware,
    log: new ProjectLog(connection),
    queue,
    storage,
    stopping: stop.signal,
  }
  standBackWhen(() => saidWaiting(storage.path(WAITING_FILE)))
  await queue.ready()
  // What workers that were killed have left: they can't come back for it.
  await Promise.all([clearLeftScratch(passingFiles()), clearLeftScratch(storage.path('scratch'))])
  await queue.work('probe', 2, (job) => probeAsset(context, job))
  await queue.work('artefact', 2, (job) => makeArtefact(context, job))
  await queue.work('proxy', 2, async (job) => {
    await afterGlances(context)
    await makeArtefact(context, job, 'proxy')
  })
  await queue.work('render', 1, () => runRender(context))
  // Only where there is a place: a worker elsewhere may not reach it.
  if (process.env.DUSK_BOARD) await queue.work('post', 1, (job) => postFilm(context, job))
  await queue.work('help', 1, (job) => helpRender(context, job))
  await queue.work('estimate', 1, (job) => runEstimate(context, job))
  await queue.work('poster', 1, (job) => drawPoster(context, job))
  await queue.work('tidy', 1, (job) => tidy(context, job))
  const recover = () =>
    Promise.all([takeUpAgain(connection.db, queue), clearLeftScratch(storage.path('scratch'))]).catch((error: Error) =>
      console.error(`Recovery: ${error.message}`),
    )
  await recover()
  const recovery = setInterval(() => void recover(), RECOVER_MS)
  const sweepAll = async () => {
    try {
      await sweep(connection, context.log, storage)
      if (storage instanceof BucketStorage) await storage.trim(CACHE_BYTES)
    } catch (error) {
      console.error(`Sweeping: ${(error as Error).message}`)
    }
  }
  const sweeping = setInterval(() => void sweepAll(), SWEEP_MS)
  setTimeout(() => void sweepAll(), FIRST_SWEEP_MS).unref()
  console.log('Worker ready.')

  const end = async () => {
    clearInterval(recovery)
    clearInterval(sweeping)
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
