import { rmSync } from 'node:fs'
import { join } from 'node:path'
import { buildRenderer, buildStudio } from './build'
import { StudioClient } from './client'
import { loadDemo } from './demo'
import { keyOf } from './keyFile'
import { networkOf } from './network'
import { showLink } from './open'
import type { Options } from './options'
import { databaseAnswers, ownFolder, portIsFree, startCluster } from './cluster'
import { Keeper } from './keeper'
import { boardPortFor, openDatabase, serviceEnv, startBoard, startStudio, startWorker, waitFor } from './processes'
import { removeState, writeState } from './stateFile'
import { runningProcess, writePidFile } from './pidFile'
import { makeStock } from './stock'
import { StepFailed } from './steps'

/** Sets everything up and runs the studio with one worker until Ctrl-C. */
export async function run(options: Options): Promise<void> {
  const { data, port } = options
  ownFolder(data)
  const pidFile = join(data, 'dusk.pid')
  if (runningProcess(pidFile))
    throw new StepFailed(
      `Dusk Reel is already running with this data folder. Stop it with ./dusk stop, or choose another with --data.`,
    )
  const network = await networkOf(options)
  const reach = { origin: network.origin, certificate: network.certificate, name: options.name?.[0] }
  const client = new StudioClient({ ...reach, key: keyOf(data) })
  await mustBeFree(port)
  writePidFile(pidFile)

  let stopping = false
  let cluster = await openDatabase(data)
  const since = Date.now()
  let databaseRestarts = 0
  const boardPort = await boardPortFor(port)
  const envNow = () => ({ ...serviceEnv(cluster, data, port, boardPort, options.media), ...network.env })
  let env: NodeJS.ProcessEnv = envNow()
  const say = (line: string) => console.error(line)
  const tell = () =>
    writeState(data, {
      ...{ reach, shown: network.shown, since, studio: studio.state, worker: worker.state },
      board: env.BOARD_PORT ? { ...board.state, port: boardPort } : null,
      database: { restarts: databaseRestarts },
      media: options.media,
    })
  const studio: Keeper = new Keeper(
    'The studio',
    () => startStudio(env),
    say,
    () => tell(),
  )
  const worker: Keeper = new Keeper(
    'The worker',
    () => startWorker(env),
    say,
    () => tell(),
  )
  const board: Keeper = new Keeper(
    'The practice board',
    () => startBoard(env)!,
    say,
    () => tell(),
  )
  // From the moment that it runs: the studio, which is waited for, answers only with it.
  const watching = watchDatabase(cluster.url, async () => {
    say('The database stopped by itself; it is started again. Edits wait in the page until then.')
    const before = cluster.url
    cluster = await startCluster(data)
    databaseRestarts++
    env = envNow()
    // On the same port both find it again by themselves.
    if (cluster.url !== before) await Promise.all([studio.renew(), worker.renew()])
    tell()
    return cluster.url
  })
  const stop = async (code: number) => {
    if (stopping) return
    stopping = true
    clearInterval(watching)
    await Promise.all([worker.stop(), studio.stop(), board.stop()])
    await cluster.stop().catch((error: Error) => console.error(error.message))
    removeState(data)
    rmSync(pidFile, { force: true })
    process.exit(code)
  }
  process.on('SIGINT', () => void stop(0))
  process.on('SIGTERM', () => void stop(0))
  try {
    await Promise.all([buildStudio(), buildRenderer(), makeStock()])
    await waitFor(client, studio.begin())
    worker.begin()
    if (env.BOARD_PORT) board.begin()
    if (!options['no-demo']) await loadDemo(client, cluster.url)
    if (env.BOARD_PORT) console.log(`Films can be posted to the practice board: http://127.0.0.1:${boardPort}`)
    await showLink(client, network.shown)
    console.log('Ctrl-C stops it.')
  } catch (error) {
    console.error(`\n${(error as Error).message}`)
    await stop(1)
  }
}

/** Milliseconds between two looks whether the database answers, and looks without an answer after which it is dead. */
const LOOK_MS = 2000
const MISSES = 2

/** Looks after the database. @param revive starts it again, and says where it is then */
function watchDatabase(at: string, revive: () => Promise<string>): ReturnType<typeof setInterval> {
  let url = at
  let misses = 0
  let busy = false
  return setInterval(async () => {
    if (busy) return
    busy = true
    try {
      misses = (await databaseAnswers(url)) ? 0 : misses + 1
      if (misses >= MISSES) {
        url = await revive()
        misses = 0
      }
    } catch (error) {
      console.error(`The database could not be started: ${(error as Error).message} It is tried again.`)
    } finally {
      busy = false
    }
  }, LOOK_MS)
}

/** Milliseconds for which a port may still be held: a studio whose supervisor was killed ends by itself just then. */
const PORT_HELD_MS = 10_000

async function mustBeFree(port: number): Promise<void> {
  for (const began = Date.now(); !(await portIsFree(port)); await new Promise((resolve) => setTimeout(resolve, 250)))
    if (Date.now() - began > PORT_HELD_MS)
      throw new StepFailed(`Port ${port} is taken by another program. Choose another with --port.`)
}
