import type { Project } from '@dusk/timeline'
import type { SourceState } from '~~/server/utils/sources'
import type { Sources } from './messages'

/** What the workers need to know of sources, plain enough to be sent to them. */
export function workerSources(states: Record<string, SourceState>, document: Project): Sources {
  const sources: Sources = {}
  for (const [assetId, state] of Object.entries(states)) {
    const kind = document.assets[assetId]?.kind
    if (kind)
      sources[assetId] = {
        kind,
        ready: state.state === 'ready',
        proxy: state.proxy ? { ...state.proxy } : null,
        plain: state.plain,
        sounds: state.sounds.map((sound) => ({ ...sound })),
      }
  }
  return sources
}
