import { setTimeout as wait } from 'node:timers/promises'
import { announce, FREEABLE, type Freeable, type Job } from '@dusk/store'
import { freeRoom } from '../sweep'
import type { Context } from './context'

/** Times that it is tried while another worker sweeps, a second apart. */
const TRIES = 60

/** Frees what the person asked for: a job's id is `chunks`, `unused`, or `project:` with the id of one put away. */
export async function tidy({ connection, log, storage, stopping }: Context, { id }: Job): Promise<void> {
  const [what, projectId = null] = id.split(':') as [Freeable, string?]
  if (!FREEABLE.includes(what)) return
  let bytes: number | null = null
  for (let i = 0; i < TRIES && bytes === null && !stopping.aborted; i++) {
    if (i > 0) await wait(1000)
    bytes = await freeRoom(connection, log, storage, what, projectId)
  }
  await announce(connection.sql, { kind: 'disk', what, bytes })
  if (projectId) await announce(connection.sql, { kind: 'projects' })
}
