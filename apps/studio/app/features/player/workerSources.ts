import type { Project } from '@dusk/timeline'
import type { SourceState } from '~~/server/utils/sources'
import type { Sources } from './messages'

/** What the workers need to know of sources, plain enough to be sent to them. */
export function workerSources(states: Record<string, SourceState>, document: Project): Sources {
  const sources: Sources = {}
  for (const [assetId, state] of Object.entries(states)) {
    const asset = document.assets[assetId]
    // One whose file was never here has nothing to draw.
    if (!asset || !state.tableUrl) continue
    const { kind, picture } = asset
    sources[assetId] = {
      kind,
      picture: state.picture ? { ...state.picture } : null,
      pieces: state.pieces && !state.missing ? { ...state.pieces, there: [...state.pieces.there] } : null,
      made: Object.fromEntries(
        Object.entries(state.made).flatMap(([name, { state, url }]) => (state === 'ready' ? [[name, url]] : [])),
      ),
      tableUrl: state.tableUrl,
      originalUrl: state.originalUrl,
      stillUrl: state.stillUrl,
      planesUrl: state.missing ? null : state.planesUrl,
      pixels: picture ? picture.width * picture.height : 0,
      plain: state.plain && !state.missing,
      sounds: state.sounds.map(({ channels, samples, url, ready }) => ({ channels, samples, url, ready })),
    }
  }
  return sources
}
