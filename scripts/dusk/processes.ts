import { spawn, type ChildProcess } from 'node:child_process'
import { join } from 'node:path'
import { migrateDatabase } from '@dusk/store'
import { StudioClient } from './client'
import { freePort, portIsFree, startCluster, type Cluster } from './cluster'
import { boardKeyOf, keyOf } from './keyFile'
import { mediaEnv } from './mediaPlace'
import { ROOT } from './options'
import { stockFolder } from './stock'
import { step, StepFailed } from './steps'

/** The port of the practice board: the one behind the studio's, where that is free. */
export const boardPortFor = async (port: number) => ((await portIsFree(port + 1)) ? port + 1 : freePort())

/**
 * Environment of the studio, its workers and the practice board.
 * @param board port of the board; `null` where there is none
 * @param media see {@link mediaEnv}
 */
export function serviceEnv(
  cluster: Cluster,
  data: string,
  port: number,
  board: number | null,
  media?: string,
): NodeJS.ProcessEnv {
  const given = process.env.DUSK_BOARD
  const ours = board !== null && !given
  return {
    ...process.env,
    ...(ours ? { DUSK_BOARD: `http://127.0.0.1:${board}`, DUSK_BOARD_KEY: boardKeyOf(data) } : {}),
    ...(ours ? { BOARD_PORT: String(board), BOARD_KEY: boardKeyOf(data), BOARD_FOLDER: join(data, 'board') } : {}),
    DATABASE_URL: cluster.url,
    ...mediaEnv(media, data),
    DUSK_STOCK: stockFolder(),
    PORT: String(port),
    NITRO_PORT: String(port),
    HOST: '127.0.0.1',
    NITRO_HOST: '127.0.0.1',
    DUSK_KEY: keyOf(data),
    NITRO_SHUTDOWN_TIMEOUT: '1500',
    NODE_ENV: 'production',
  }
}

/** Starts a long-running process that ends when this one does. */
export function service(command: string, args: string[], env: NodeJS.ProcessEnv, cwd = ROOT): ChildProcess {
  return spawn('setpriv', ['--pdeathsig', 'TERM', command, ...args], {
    env,
    cwd,
    stdio: ['ignore', 'inherit', 'inherit'],
  })
}

export function startStudio(env: NodeJS.ProcessEnv): ChildProcess {
  return service('node', ['apps/studio/.output/server/index.mjs'], env)
}

export function startWorker(env: NodeJS.ProcessEnv): ChildProcess {
  return service('node', ['--enable-source-maps', 'apps/renderer/build/main.mjs'], env)
}

/** The practice board, a place to post films to; `null` where another place is given. */
export function startBoard(env: NodeJS.ProcessEnv): ChildProcess | null {
  return env.BOARD_PORT ? service('node', ['--import', 'tsx', 'apps/board/src/main.ts'], env) : null
}

/** The database, started and up to date. */
export async function openDatabase(data: string, durable = true): Promise<Cluster> {
  const cluster = await step('Database started', () => startCluster(data, durable))
  await step('Tables up to date', () => migrateDatabase(cluster.url, join(ROOT, 'packages/store/migrations')))
  return cluster
}

/** Waits until the studio answers. */
export async function waitFor(studio: StudioClient, child: ChildProcess, seconds = 60): Promise<void> {
  for (let i = 0; i < seconds * 10; i++) {
    if (child.exitCode !== null) throw new StepFailed('The studio stopped while starting; its own words are above.')
    if (await studio.answers()) return
    await new Promise((resolve) => setTimeout(resolve, 100))
  }
  throw new StepFailed(`The studio did not answer at ${studio.origin} within ${seconds} s.`)
}

/** The studio of a data folder as our own programs call it on this machine. */
export function localStudio(data: string, port: number): StudioClient {
  return new StudioClient({ origin: `http://127.0.0.1:${port}`, key: keyOf(data) })
}

/** Ends a process, politely first. */
export async function end(child: ChildProcess | null): Promise<void> {
  if (!child || child.exitCode !== null) return
  const gone = new Promise<void>((resolve) => child.once('exit', () => resolve()))
  child.kill('SIGTERM')
  const late = setTimeout(() => child.kill('SIGKILL'), 5000)
  await gone
  clearTimeout(late)
}
