import { join } from 'node:path'
import { StudioClient } from './client'
import { clusterRuns } from './cluster'
import { keyOf } from './keyFile'
import type { Options } from './options'
import { runningProcess } from './pidFile'
import { readState, type RunState } from './stateFile'

/** Exit code when something that should run does not (as LSB has it for services). */
const NOT_RUNNING = 3

const times = (count: number) => (count === 0 ? '' : `, started again ${count === 1 ? 'once' : `${count} times`}`)

/** Says how what runs with this data folder stands. */
export async function run({ data }: Options): Promise<void> {
  const pid = runningProcess(join(data, 'dusk.pid'))
  const state = pid ? readState(data) : null
  const database = await clusterRuns(data)
  const answers = state ? await new StudioClient({ ...state.reach, key: keyOf(data) }).answers() : false
  console.log(`data folder  ${data}`)
  const since = state ? `, since ${new Date(state.since).toISOString()}` : ''
  console.log(`supervisor   ${pid ? `runs (process ${pid})${since}` : 'does not run'}`)
  console.log(`studio       ${part(state, 'studio', answers ? `answers at ${state!.shown}` : 'does not answer')}`)
  console.log(`worker       ${part(state, 'worker', state?.worker.pid ? 'runs' : 'does not run')}`)
  if (state?.board) console.log(`board        ${part(state, 'board', `at http://127.0.0.1:${state.board.port}`)}`)
  console.log(`database     ${database ? 'runs' : 'does not run'}${times(state?.database.restarts ?? 0)}`)
  if (!pid || !answers || !database || !state?.worker.pid) process.exitCode = NOT_RUNNING
}

function part(state: RunState | null, name: 'studio' | 'worker' | 'board', words: string): string {
  const one = state?.[name]
  if (!one) return 'does not run'
  const { pid, restarts } = one
  return `${words}${pid ? ` (process ${pid})` : ''}${times(restarts)}`
}
