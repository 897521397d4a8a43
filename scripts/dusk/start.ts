import { mkdirSync, rmSync } from 'node:fs'
import { createServer } from 'node:net'
import { join } from 'node:path'
import type { ChildProcess } from 'node:child_process'
import { buildStudio } from './build'
import { loadDemo } from './demo'
import type { Options } from './options'
import { end, openDatabase, serviceEnv, startStudio, startWorker, waitFor } from './processes'
import { runningProcess, writePidFile } from './pidFile'
import { makeStock } from './stock'
import { StepFailed } from './steps'

/** Sets everything up and runs the studio with one worker until Ctrl-C. */
export async function run(options: Options): Promise<void> {
  const { data, port } = options
  mkdirSync(data, { recursive: true })
  const pidFile = join(data, 'dusk.pid')
  if (runningProcess(pidFile))
    throw new StepFailed(
      `Dusk Reel is already running with this data folder. Stop it with ./dusk stop, or choose another with --data.`,
    )
  await mustBeFree(port)
  writePidFile(pidFile)

  let worker: ChildProcess | null = null
  let studio: ChildProcess | null = null
  let stopping = false
  const cluster = await openDatabase(data)
  const stop = async (code: number) => {
    if (stopping) return
    stopping = true
    await Promise.all([end(worker), end(studio)])
    await cluster.stop().catch((error: Error) => console.error(error.message))
    rmSync(pidFile, { force: true })
    process.exit(code)
  }
  process.on('SIGINT', () => void stop(0))
  process.on('SIGTERM', () => void stop(0))
  try {
    await Promise.all([buildStudio(), makeStock()])
    const env = serviceEnv(cluster, data, port)
    studio = startStudio(env)
    studio.once('exit', () => {
      if (stopping) return
      console.error('\nThe studio stopped by itself; its own words are above.')
      void stop(1)
    })
    await waitFor(`http://127.0.0.1:${port}/api/health`, studio)
    const keepWorking = () => {
      worker = startWorker(env)
      worker.once('exit', () => {
        if (stopping) return
        console.error('The worker stopped and is started again; what it was doing goes on.')
        setTimeout(keepWorking, 1000)
      })
    }
    keepWorking()
    if (!options['no-demo']) await loadDemo(`http://127.0.0.1:${port}`, cluster.url)
    console.log(`\nDusk Reel is at http://127.0.0.1:${port}\nCtrl-C stops it.`)
  } catch (error) {
    console.error(`\n${(error as Error).message}`)
    await stop(1)
  }
}

function mustBeFree(port: number): Promise<void> {
  return new Promise((resolve, reject) => {
    const server = createServer()
    server.once('error', () =>
      reject(new StepFailed(`Port ${port} is taken by another program. Choose another with --port.`)),
    )
    server.listen(port, '127.0.0.1', () => server.close(() => resolve()))
  })
}
