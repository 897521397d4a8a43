import { randomUUID } from 'node:crypto'
import { BadMedia } from '@dusk/media'
import type { assets } from '@dusk/store'
import type { AssetFacts } from '@dusk/timeline'
import type { Context } from './context'

/** Enters a source into the document, or says there what is known better now. */
export async function addToDocument(
  { log }: Pick<Context, 'log'>,
  { projectId, windowId }: Pick<typeof assets.$inferSelect, 'projectId' | 'windowId'>,
  asset: AssetFacts,
  options: { again?: true } = {},
): Promise<void> {
  const { outcomes } = await log.append(projectId, windowId, [
    { id: randomUUID(), command: { type: 'addAsset', asset, ...options } },
  ])
  for (const outcome of outcomes) if ('refused' in outcome) throw new BadMedia(outcome.refused)
}
