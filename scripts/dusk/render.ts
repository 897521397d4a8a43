import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { renderArchive, renderProject, reportWords, UsageError } from '@dusk/renderer/cli'
import type { RenderProgress } from '@dusk/store'
import { buildRenderer } from './build'
import { startCluster } from './cluster'
import type { Options } from './options'
import { StepFailed } from './steps'

/** Renders without the studio's pages: a project by its id, or a `.duskreel` file. */
export async function run(options: Options): Promise<void> {
  const [source, out] = options.positionals
  if (!source || !out) throw new StepFailed('Say what to render and where to: ./dusk render PROJECT OUT.mp4')
  await buildRenderer()
  const stop = new AbortController()
  process.once('SIGINT', () => stop.abort(new Error('Cancelled.')))
  const progress = ({ stage, framesDone, frames, secondsLeft }: RenderProgress) => {
    if (options.json) return void console.log(JSON.stringify({ stage, framesDone, frames, secondsLeft }))
    if (!process.stdout.isTTY) return
    const left = secondsLeft === null ? '' : `, ${Math.ceil(secondsLeft)} s left`
    process.stdout.write(`\r${stage === 'picture' ? `${framesDone} of ${frames} frames${left}` : stage}          `)
  }
  try {
    const report = existsSync(source)
      ? await renderArchive(source, out, options, progress, stop.signal)
      : await fromDatabase(source, out, options, progress, stop.signal)
    if (options.json) return void console.log(JSON.stringify({ done: out, ...report }))
    if (process.stdout.isTTY) process.stdout.write('\r')
    console.log(`${out}: ${reportWords(report)}`)
  } catch (error) {
    if (error instanceof UsageError || error instanceof Error) throw new StepFailed(error.message)
    throw error
  }
}

async function fromDatabase(
  id: string,
  out: string,
  options: Options,
  progress: (progress: RenderProgress) => void,
  signal: AbortSignal,
) {
  if (!/^[0-9a-f-]{36}$/.test(id)) throw new StepFailed(`There is no file ${id}, and it is not a project’s id either.`)
  if (!existsSync(join(options.data, 'postgres.json')))
    throw new StepFailed(`There is no studio in ${options.data}. Start one, or name it with --data.`)
  const cluster = await startCluster(options.data)
  try {
    return await renderProject(cluster.url, join(options.data, 'media'), id, out, options, progress, signal)
  } finally {
    if (cluster.startedHere) await cluster.stop()
  }
}
