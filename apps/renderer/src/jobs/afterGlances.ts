import { setTimeout } from 'node:timers/promises'
import { glancesMissing } from '@dusk/store'
import type { Context } from './context'

/** How often it is looked whether first glances are still missing, in milliseconds. */
const LOOK_MS = 200
/** How long they are waited for at most: shorter than the silence after which a job counts as lost. */
const WAIT_MS = 10_000

/**
 * Settles once no source waits for its first glance: what takes minutes stands back behind what is seen within
 * seconds. It comes in the end even where glances never cease.
 */
export async function afterGlances({ connection, stopping }: Pick<Context, 'connection' | 'stopping'>): Promise<void> {
  const began = Date.now()
  while (!stopping.aborted && Date.now() - began < WAIT_MS && (await glancesMissing(connection.db)))
    await setTimeout(LOOK_MS)
}
